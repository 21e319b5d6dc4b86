package practice

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v3"

	"slowroot/core/finding"
)

// Value is one value of a sheet as it is written: where it stands, what it is, and where it is from. Entries of a list are
// named in the path by their id, key or name, else by their place: "layouts[square].rowM", "yields[0].full.base".
type Value struct {
	Path    string `json:"path"`
	Section string `json:"section"` // the part of the sheet it stands in
	Entry   string `json:"entry"`   // the entry of the section, "" where it has none
	Field   string `json:"field"`   // what of the entry
	Value   string `json:"value"`
	Origin  string `json:"origin"` // mark of the entry it stands in; "" where that says none
}

// names are the fields an entry of a list is known by, in this order.
var names = []string{"id", "key", "factor", "after", "name", "title", "item"}

// Values are all values of a sheet's text in its order, its own identity left out. An alias is told where it is anchored.
func Values(text []byte) ([]Value, error) {
	root, err := parse(text)
	if err != nil {
		return nil, err
	}
	var out []Value
	for i := 0; i+1 < len(root.Content); i += 2 {
		section := root.Content[i].Value
		if section == "format" || section == "id" || section == "version" || section == "from" {
			continue
		}
		walkNode(root.Content[i+1], section, "", func(path, origin string, n *yaml.Node) {
			v := Value{Path: path, Section: section, Value: n.Value, Origin: origin}
			rest := strings.TrimPrefix(path, section)
			if strings.HasPrefix(rest, "[") {
				end := strings.Index(rest, "]")
				v.Entry, rest = rest[1:end], rest[end+1:]
			}
			v.Field = strings.TrimPrefix(rest, ".")
			if v.Field == "" {
				v.Field = section
			}
			out = append(out, v)
		})
	}
	return out, nil
}

// parse is the mapping a sheet's text is.
func parse(text []byte) (*yaml.Node, error) {
	var doc yaml.Node
	if err := yaml.Unmarshal(text, &doc); err != nil {
		return nil, fmt.Errorf("reading practice sheet: %w", err)
	}
	if len(doc.Content) != 1 || doc.Content[0].Kind != yaml.MappingNode {
		return nil, errors.New("reading practice sheet: it is not a list of fields")
	}
	return doc.Content[0], nil
}

// walkNode tells every scalar below a node.
func walkNode(n *yaml.Node, path, origin string, tell func(path, origin string, n *yaml.Node)) {
	switch n.Kind {
	case yaml.ScalarNode:
		tell(path, origin, n)
	case yaml.MappingNode:
		if o := field(n, "origin"); o != nil {
			origin = o.Value
		}
		for i := 0; i+1 < len(n.Content); i += 2 {
			walkNode(n.Content[i+1], path+"."+n.Content[i].Value, origin, tell)
		}
	case yaml.SequenceNode:
		for i, key := range memberNames(n) {
			walkNode(n.Content[i], path+"["+key+"]", origin, tell)
		}
	}
}

// field is the value of a field of a mapping, nil where it has none.
func field(n *yaml.Node, name string) *yaml.Node {
	if n == nil || n.Kind != yaml.MappingNode {
		return nil
	}
	for i := 0; i+1 < len(n.Content); i += 2 {
		if n.Content[i].Value == name {
			return n.Content[i+1]
		}
	}
	return nil
}

// memberNames are what the entries of a list are called in a path: by a field all of them have and no two share, else by
// their place.
func memberNames(n *yaml.Node) []string {
	out := make([]string, len(n.Content))
	for _, name := range names {
		seen := map[string]bool{}
		for i, c := range n.Content {
			v := field(c, name)
			if v == nil || v.Value == "" || seen[v.Value] || strings.ContainsAny(v.Value, "[]") {
				seen = nil
				break
			}
			seen[v.Value], out[i] = true, v.Value
		}
		if seen != nil && len(n.Content) > 0 {
			return out
		}
	}
	for i := range out {
		out[i] = strconv.Itoa(i)
	}
	return out
}

// Edit is one change of a sheet's text: a value set; an entry of a list copied under another id, as a school beside it; or
// one taken out.
type Edit struct {
	Path   string `json:"path"`
	Value  string `json:"value,omitempty"`  // set to this
	CopyAs string `json:"copyAs,omitempty"` // the entry at the path, once more under this id
	Remove bool   `json:"remove,omitempty"` // the entry at the path
}

// Edited is a sheet's text with edits made in their order. It is not judged here: Load does that.
func Edited(text []byte, edits []Edit) ([]byte, error) {
	root, err := parse(text)
	if err != nil {
		return nil, err
	}
	for _, e := range edits {
		if err := e.apply(root); err != nil {
			return nil, err
		}
	}
	return yaml.Marshal(root)
}

func (e Edit) apply(root *yaml.Node) error {
	parent, at, err := find(root, e.Path)
	if err != nil {
		return err
	}
	switch n := parent.Content[at]; {
	case e.CopyAs != "":
		return e.copyEntry(root, parent, at)
	case e.Remove:
		if parent.Kind != yaml.SequenceNode {
			return finding.Bad("path", e.Path, "is not an entry of a list", "an entry such as layouts[square]")
		}
		parent.Content = append(parent.Content[:at:at], parent.Content[at+1:]...)
	case n.Kind != yaml.ScalarNode:
		return finding.Bad("path", e.Path, "is not one value", "the path of a value")
	default:
		quoted := n.Tag == "!!str"
		n.Value, n.Tag = e.Value, ""
		if quoted {
			n.Tag, n.Style = "!!str", yaml.DoubleQuotedStyle
		}
	}
	return nil
}

// copyEntry puts an entry once more behind itself under another id, and lets whatever holds for the one hold for the other.
func (e Edit) copyEntry(root, parent *yaml.Node, at int) error {
	n := parent.Content[at]
	id := field(n, "id")
	if parent.Kind != yaml.SequenceNode || id == nil {
		return finding.Bad("path", e.Path, "is not an entry that can stand twice", "a layout, an option or an operation")
	}
	for _, c := range parent.Content {
		if x := field(c, "id"); x != nil && x.Value == e.CopyAs {
			return finding.Bad("copyAs", e.CopyAs, "is the id of another entry", "an id of its own")
		}
	}
	again := clone(n)
	field(again, "id").Value = e.CopyAs
	for i := 0; i+1 < len(again.Content); i += 2 { // only one is the usual one
		if again.Content[i].Value == "default" {
			again.Content = append(again.Content[:i:i], again.Content[i+2:]...)
			break
		}
	}
	parent.Content = append(parent.Content[:at+1:at+1], append([]*yaml.Node{again}, parent.Content[at+1:]...)...)
	holdsToo(root, id.Value, e.CopyAs)
	return nil
}

// holdsToo adds an id to every condition that names another.
func holdsToo(n *yaml.Node, id, too string) {
	if n.Kind == yaml.MappingNode {
		for i := 0; i+1 < len(n.Content); i += 2 {
			if n.Content[i].Value != "if" {
				continue
			}
			for k := 1; k < len(n.Content[i+1].Content); k += 2 {
				list := n.Content[i+1].Content[k]
				for _, v := range list.Content {
					if v.Value == id {
						list.Content = append(list.Content, &yaml.Node{Kind: yaml.ScalarNode, Value: too})
						break
					}
				}
			}
		}
	}
	for _, c := range n.Content {
		holdsToo(c, id, too)
	}
}

func clone(n *yaml.Node) *yaml.Node {
	c := *n
	c.Anchor = ""
	c.Content = make([]*yaml.Node, len(n.Content))
	for i, x := range n.Content {
		c.Content[i] = clone(x)
	}
	return &c
}

// find is where a path leads: the node it stands in and its place there.
func find(root *yaml.Node, path string) (parent *yaml.Node, at int, err error) {
	n := root
	rest := path
	bad := func() (*yaml.Node, int, error) {
		return nil, 0, finding.Bad("path", path, "leads to nothing in this sheet", "a path as the sheet's values have it")
	}
	for rest != "" {
		for n != nil && n.Kind == yaml.AliasNode {
			n = n.Alias
		}
		if strings.HasPrefix(rest, "[") {
			end := strings.Index(rest, "]")
			if end < 0 || n == nil || n.Kind != yaml.SequenceNode {
				return bad()
			}
			key := rest[1:end]
			rest = rest[end+1:]
			found := -1
			for i, name := range memberNames(n) {
				if name == key {
					found = i
				}
			}
			if found < 0 {
				return bad()
			}
			parent, at = n, found
		} else {
			rest = strings.TrimPrefix(rest, ".")
			end := strings.IndexAny(rest, ".[")
			if end < 0 {
				end = len(rest)
			}
			key := rest[:end]
			rest = rest[end:]
			found := -1
			if n != nil && n.Kind == yaml.MappingNode {
				for i := 0; i+1 < len(n.Content); i += 2 {
					if n.Content[i].Value == key {
						found = i + 1
					}
				}
			}
			if found < 0 {
				return bad()
			}
			parent, at = n, found
		}
		n = parent.Content[at]
	}
	if parent == nil {
		return bad()
	}
	return parent, at, nil
}

// Copied is a sheet's text under another id and name; it keeps in mind what it was copied from.
func Copied(text []byte, id, name, from string) ([]byte, error) {
	root, err := parse(text)
	if err != nil {
		return nil, err
	}
	set := func(key, value string) {
		if n := field(root, key); n != nil {
			n.Value, n.Tag, n.Style = value, "!!str", yaml.DoubleQuotedStyle
			return
		}
		root.Content = append([]*yaml.Node{{Kind: yaml.ScalarNode, Value: key}, {Kind: yaml.ScalarNode, Tag: "!!str", Value: value}}, root.Content...)
	}
	set("from", from)
	set("name", name)
	set("id", id)
	return yaml.Marshal(root)
}

// Difference is one value that two sheets do not share; "" is where one has none.
type Difference struct {
	Path    string `json:"path"`
	Section string `json:"section"`
	Entry   string `json:"entry"`
	Field   string `json:"field"`
	Was     string `json:"was"`
	Is      string `json:"is"`
}

// Differences are the values in which one text of a sheet differs from another, in the order of the first, then what only
// the second has. Their names are left out.
func Differences(was, is []byte) ([]Difference, error) {
	a, err := Values(was)
	if err != nil {
		return nil, err
	}
	b, err := Values(is)
	if err != nil {
		return nil, err
	}
	now := make(map[string]Value, len(b))
	for _, v := range b {
		now[v.Path] = v
	}
	out := []Difference{}
	seen := make(map[string]bool, len(a))
	for _, v := range a {
		seen[v.Path] = true
		if n := now[v.Path]; n.Value != v.Value && v.Section != "name" {
			out = append(out, Difference{v.Path, v.Section, v.Entry, v.Field, v.Value, n.Value})
		}
	}
	for _, v := range b {
		if !seen[v.Path] {
			out = append(out, Difference{v.Path, v.Section, v.Entry, v.Field, "", v.Value})
		}
	}
	return out, nil
}
