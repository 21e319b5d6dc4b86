package plan

// earlyBloomer are crops whose blossom meets the last frosts (common practice, no source).
var earlyBloomer = map[string]bool{"peach": true, "pear": true, "apple": true, "hazelnut": true, "blueberry": true, "strawberry": true}
