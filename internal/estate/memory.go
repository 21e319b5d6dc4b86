package estate

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

const (
	longRecords = 256 // surveys, series of weather, libraries: small in number, of all blocks of an estate
	designs     = 64  // drains of a block as designed in one way; some 100 kB each
)

// memory keeps what is slow to work out and follows from inputs named in its key. It is bounded, shared between all
// readers, and works a thing out once when several ask for it together.
type memory struct {
	once  sync.Once
	kept  *lru.Cache[string, any]
	parts *lru.Cache[string, any]
	group singleflight.Group
}

func (m *memory) open() {
	m.once.Do(func() {
		m.kept, _ = lru.New[string, any](longRecords) // an error only for a size of nought
		m.parts, _ = lru.New[string, any](designs)
	})
}

// forget empties it.
func (m *memory) forget() {
	m.open()
	m.kept.Purge()
	m.parts.Purge()
}

// Recall is what a part of a plan was, or made, under a key that names its whole input. What is kept is never written to.
func (m *memory) Recall(key string, make func() (any, bool)) any {
	m.open()
	if v, ok := m.parts.Get(key); ok {
		return v
	}
	type made struct {
		v    any
		keep bool
	}
	got, _, shared := m.group.Do("part "+key, func() (any, error) {
		v, keep := make()
		if keep {
			m.parts.Add(key, v)
		}
		return made{v, keep}, nil
	})
	if r := got.(made); r.keep || !shared {
		return r.v
	}
	v, _ := make() // who asked first was stopped on the way
	return v
}

func recall[T any](m *memory, key string, make func() (T, error)) (T, error) {
	m.open()
	if v, ok := m.kept.Get(key); ok {
		return v.(T), nil
	}
	got, err, shared := m.group.Do(key, func() (any, error) {
		v, err := make()
		if err == nil {
			m.kept.Add(key, v)
		}
		return v, err
	})
	if err != nil && shared {
		return make() // who asked first may have left
	}
	return got.(T), err
}

func keyOf(kind string, of ...any) string {
	text, _ := json.Marshal(of) // plain values always encode
	sum := sha256.Sum256(text)
	return kind + hex.EncodeToString(sum[:])
}
