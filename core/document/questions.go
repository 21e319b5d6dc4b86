package document

import (
	"strings"

	"slowroot/core/finding"
)

// Question is one practitioners ask of a site before they plant it. All are common practice.
type Question struct {
	Key     string           `json:"key"`
	Asks    string           `json:"asks"`
	Why     string           `json:"why"`
	Options []QuestionOption `json:"options"`
}

// QuestionOption is an answer, and what follows from it; a weight of "" raises nothing.
type QuestionOption struct {
	ID       string         `json:"id"`
	Words    string         `json:"words"`
	Weight   finding.Weight `json:"weight"`
	Sentence string         `json:"sentence"`
}

func (q Question) Option(id string) (QuestionOption, bool) {
	for _, o := range q.Options {
		if o.ID == id {
			return o, true
		}
	}
	return QuestionOption{}, false
}

func (q Question) accepted() string {
	var ids []string
	for _, o := range q.Options {
		ids = append(ids, o.ID)
	}
	return strings.Join(ids, ", ")
}

// QuestionNamed finds a question.
func QuestionNamed(key string) (Question, bool) {
	for _, q := range Questions {
		if q.Key == key {
			return q, true
		}
	}
	return Question{}, false
}

// Questions in the order they are asked (common practice, no source).
var Questions = []Question{
	{"access", "Can a loaded trailer reach it in wet weather?", "The harvest leaves when it is ready, not when the track is dry.", []QuestionOption{
		{"yes", "yes", "", ""}, {"dry", "only when dry", finding.Watch,
			"The track carries a loaded trailer only when it is dry: harvest and spraying wait for it. Gravel the wet part before planting."},
		{"no", "no", finding.Mend, "No track carries a loaded trailer to this block: one must be built before planting, while machines can still cross the field."}}},
	{"sun", "Does it stand in full sun?", "Shade takes crop and colour and keeps leaves wet.", []QuestionOption{
		{"full", "all day", "", ""}, {"part", "shaded part of the day", finding.Watch,
			"Part of the block lies in shade for part of the day: leave rows there out, or expect less crop and more leaf disease."},
		{"shade", "mostly shaded", finding.Mend, "The block is mostly shaded: a fruit crop will not pay here unless the shade is taken away."}}},
	{"wind", "How windy is it?", "Wind breaks, dries and drops.", []QuestionOption{
		{"sheltered", "sheltered", "", ""}, {"open", "open, no strong wind", "", ""}, {"windy", "often strong", finding.Mend,
			"Strong wind is usual here: plant a windbreak of 40 to 60 % porosity across it, two or three years ahead."}}},
	{"water", "Is there water enough for the driest month?", "Young plants need it whatever the rain.", []QuestionOption{
		{"enough", "yes, measured", "", ""}, {"guess", "it seems so", finding.Watch,
			"Nobody has measured the supply at the end of the dry season: measure litres a second before buying plants."},
		{"short", "not enough", finding.Mend, "The supply does not cover the driest month: a store, another source, a smaller block or a crop that lives on rain."},
		{"none", "no water", finding.Watch, "There is no water here: only crops that live on the rain of this place, planted at the onset of the rains."}}},
	{"waterQuality", "What is the water like?", "Salt, sodium and bicarbonate build up over years; germs matter on fruit.", []QuestionOption{
		{"good", "tested, good", "", ""}, {"untested", "not tested", finding.Watch,
			"The water is not tested: EC, sodium, chloride, bicarbonate, boron, iron and germs, before the irrigation is designed."},
		{"salty", "tested, salty or hard", finding.Mend,
			"The water carries salt or bicarbonate: choose a tolerant crop or stock, plan leaching and acid, and test the soil's salinity every year."}}},
	{"wildlife", "Do deer, hares, birds or stray stock get in?", "One night can cost a year.", []QuestionOption{
		{"no", "no", "", ""}, {"some", "sometimes", finding.Watch, "Game or stock visit now and then: guards on every young stem, and someone who walks it."},
		{"yes", "regularly", finding.Mend, "Game or stray stock graze here: fence the block before the first plant goes in."}}},
	{"neighbours", "Do neighbours spray close by?", "Drift kills young leaves and spoils a harvest's papers.", []QuestionOption{
		{"no", "no", "", ""}, {"told", "yes, and we talk", finding.Know,
			"A neighbour sprays close by and tells when: keep the strip of the boundary planted with a hedge."},
		{"yes", "yes", finding.Mend, "Neighbours spray close by: talk to them before planting, leave a strip or plant a hedge, and keep a record of drift."}}},
	{"market", "How far is the buyer?", "Fresh fruit and leaf lose value by the hour.", []QuestionOption{
		{"named", "a buyer is named, within reach", "", ""}, {"far", "a buyer is named, far away", finding.Watch,
			"The buyer is far: reckon cooling and haulage before choosing a soft crop."}, {"none", "no buyer yet", finding.Mend,
			"No buyer is named: find one before ordering plants, for a crop that takes years to bear cannot be changed then."}}},
	{"utilities", "Are pipes, cables or lines known?", "They are found with a plough otherwise.", []QuestionOption{
		{"marked", "asked for and marked", "", ""}, {"none", "asked for, none", "", ""}, {"unknown", "nobody has asked", finding.Mend,
			"Nobody has asked where pipes and cables lie: do that before digging a pit, ripping or draining."}, {"overhead", "overhead lines", finding.Watch,
			"Overhead lines cross the block: keep tall machines, poles and irrigation pipes away from them, and plant nothing that grows into them."}}},
	{"roots", "Are there old tree roots in the ground?", "Root rot lives on them.", []QuestionOption{
		{"no", "no", "", ""}, {"few", "a few", finding.Watch, "A few old roots lie in the ground: take them out while ripping and burn or cart them away."},
		{"many", "many", finding.Mend, "Old roots feed root rot: lift them and wait a year before planting trees."}}},
	{"weeds", "Are there noxious or perennial weeds?", "They cannot be reached once plants stand.", []QuestionOption{
		{"no", "no", "", ""}, {"some", "patches", finding.Watch,
			"Patches of perennial weeds: two or three rounds of control in the year before planting, and a map of the patches."}, {"many", "everywhere", finding.Mend,
			"Perennial weeds are everywhere: a year of cover crops and control before planting; afterwards they cannot be reached."}}},
	{"sod", "Is there undisturbed sod?", "Grubs and wireworm live in it.", []QuestionOption{
		{"no", "no", "", ""}, {"yes", "yes", finding.Watch,
			"Old sod holds grubs and wireworm: plough it at least a year ahead and grow an open crop before soft fruit or cane."}}},
	{"flood", "Does water ever stand or flow over it?", "Flooding is not mended by works inside the block.", []QuestionOption{
		{"no", "never", "", ""}, {"ponds", "ponds after heavy rain", finding.Watch,
			"Water stands after heavy rain: dig a pit where it stands and mend it or leave that part out."}, {"floods", "it floods", finding.Stops,
			"The block floods: nothing done inside it stops that. Choose other ground or a crop that bears floods."}}},
	{"slopeFall", "Where does cold air run on a still night?", "A walk before sunrise tells more than a map.", []QuestionOption{
		{"through", "through and away", "", ""}, {"stays", "it stays", finding.Mend,
			"Cold air stays on the block on still nights: no early bloomer, or open what dams it below."}, {"unknown", "nobody has looked", finding.Know,
			"Nobody has walked it on a still, clear night before sunrise: do that once before choosing an early bloomer."}}},
}
