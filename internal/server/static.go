package server

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

// static serves the front end from memory, in the encoding it was compressed to at build time.
type static struct{ files map[string]file }

type file struct {
	body, br, gz []byte
	mime, etag   string
}

func newStatic(dist fs.FS) *static {
	s := &static{files: map[string]file{}}
	if dist == nil {
		return s
	}
	_ = fs.WalkDir(dist, ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasSuffix(name, ".br") || strings.HasSuffix(name, ".gz") {
			return err
		}
		var f file
		if f.body, err = fs.ReadFile(dist, name); err != nil {
			return err
		}
		f.br, _ = fs.ReadFile(dist, name+".br") // absent where it would not be smaller
		f.gz, _ = fs.ReadFile(dist, name+".gz")
		f.mime = mime.TypeByExtension(path.Ext(name))
		if strings.HasSuffix(name, ".woff2") {
			f.mime = "font/woff2"
		}
		sum := sha256.Sum256(f.body)
		f.etag = `"` + hex.EncodeToString(sum[:8]) + `"`
		s.files[name] = f
		return nil
	})
	return s
}

func (s *static) serve(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
	f, ok := s.files[name]
	if !ok {
		if name != "" && strings.Contains(path.Base(name), ".") {
			c.Status(http.StatusNotFound)
			return
		}
		if f, ok = s.files["index.html"]; !ok { // every other address is a place in the front end
			c.Data(http.StatusServiceUnavailable, "text/plain; charset=utf-8", []byte("The front end is not built: run make build.\n"))
			return
		}
		name = "index.html"
	}
	h := c.Writer.Header()
	h.Set("ETag", f.etag)
	h.Set("Vary", "Accept-Encoding")
	if strings.HasPrefix(name, "assets/") {
		h.Set("Cache-Control", "public, max-age=31536000, immutable")
	} else {
		h.Set("Cache-Control", "no-cache")
	}
	if c.GetHeader("If-None-Match") == f.etag {
		c.Status(http.StatusNotModified)
		return
	}
	body := f.body
	switch accept := c.GetHeader("Accept-Encoding"); {
	case strings.Contains(accept, "br") && f.br != nil:
		body = f.br
		h.Set("Content-Encoding", "br")
	case strings.Contains(accept, "gzip") && f.gz != nil:
		body = f.gz
		h.Set("Content-Encoding", "gzip")
	}
	c.DataFromReader(http.StatusOK, int64(len(body)), f.mime, bytes.NewReader(body), nil)
}
