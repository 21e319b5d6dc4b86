package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"slowroot/core/finding"
)

// Limits of a JSON body: what no honest document reaches, and what would take the reader memory and time.
const (
	maxDepth = 32
	maxKeys  = 20_000
)

// answer writes v, or the error. What cannot be written as JSON is a fault of the program and is said as one.
func answer[T any](s *Server, c *gin.Context, status int, v T, err error) {
	if err != nil {
		s.fail(c, err)
		return
	}
	body, err := json.Marshal(v)
	if err != nil {
		s.fail(c, fmt.Errorf("writing the answer: %w", err))
		return
	}
	c.Data(status, "application/json; charset=utf-8", body)
}

// malformed is a body that ends before its end or is framed wrongly.
type malformed struct{ err error }

func (m *malformed) Error() string {
	return "the request's body cannot be read: " + m.err.Error()
}

func (s *Server) body(c *gin.Context) ([]byte, bool) {
	b, err := io.ReadAll(c.Request.Body)
	if err != nil {
		var tooBig *http.MaxBytesError
		if !errors.As(err, &tooBig) && c.Request.Context().Err() == nil {
			err = &malformed{err}
		}
		s.fail(c, err)
		return nil, false
	}
	if err := within(b); err != nil {
		s.fail(c, err)
		return nil, false
	}
	return b, true
}

// within refuses a body nested too deep or with too many keys before anything is made of it.
func within(b []byte) error {
	depth, keys := 0, 0
	quoted := false
	for i := 0; i < len(b); i++ {
		ch := b[i]
		if quoted {
			switch ch {
			case '\\':
				i++
			case '"':
				quoted = false
			}
			continue
		}
		switch ch {
		case '"':
			quoted = true
		case '{', '[':
			if depth++; depth > maxDepth {
				return finding.Bad("body", fmt.Sprintf("%d levels", depth), "is nested too deep", fmt.Sprintf("at most %d levels", maxDepth))
			}
		case '}', ']':
			depth--
		case ':':
			if keys++; keys > maxKeys {
				return finding.Bad("body", fmt.Sprintf("over %d fields", maxKeys), "holds more fields than any document here", fmt.Sprintf("at most %d; read a file in parts", maxKeys))
			}
		}
	}
	return nil
}

// decode reads a JSON body strictly: one object, no field the contract does not know, nothing behind it.
func (s *Server) decode(c *gin.Context, to any) bool {
	b, ok := s.body(c)
	if !ok {
		return false
	}
	if err := oneObject(b, to); err != nil {
		s.fail(c, err)
		return false
	}
	return true
}

func oneObject(b []byte, to any) error {
	bad := func(rule string) error {
		return finding.Bad("body", "", rule, "one JSON object with the fields of the contract")
	}
	if trimmed := bytes.TrimLeft(b, " \t\r\n"); len(trimmed) == 0 || trimmed[0] != '{' {
		return bad("is not an object")
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(to); err != nil {
		return bad(strings.TrimPrefix(err.Error(), "json: "))
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return bad("holds something behind its end")
	}
	return nil
}
