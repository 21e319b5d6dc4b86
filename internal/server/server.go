// Package server is the HTTP face of an estate: routing, decoding, errors and the embedded front end.
// It knows no rule of the trade.
package server

import (
	"compress/gzip"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"slowroot/internal/api"
	"slowroot/internal/estate"
)

// Limits of a request body.
const (
	maxBody   = 8 << 20
	maxImport = 9 << 20
	maxRecord = 40 << 20  // heights and weather
	maxCopy   = 512 << 20 // a copy of an estate
)

// Config is what a server is made of.
type Config struct {
	Estate     *estate.Service
	Demo       func() (estate.Demonstration, error)
	Web        fs.FS // the built front end, with index.html at its root
	Version    string
	Build      string
	TodayFixed bool
	Log        *slog.Logger
}

// Server implements the generated interface.
type Server struct {
	Config
	log *slog.Logger
}

var _ api.ServerInterface = (*Server)(nil)

// New is the handler of everything.
func New(cfg Config) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	s := &Server{Config: cfg, log: cfg.Log}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.RedirectTrailingSlash = false
	r.Use(s.recover, s.headers, s.local, s.limit, s.logged, seen)
	api.RegisterHandlersWithOptions(r, s, api.GinServerOptions{BaseURL: "/api/v1", ErrorHandler: func(c *gin.Context, err error, status int) {
		problem(c, api.Problem{Type: "/problems/bad-request", Title: "The request cannot be read", Status: status, Detail: err.Error()})
	}})
	static := newStatic(cfg.Web)
	r.NoRoute(func(c *gin.Context) {
		if strings.HasPrefix(c.Request.URL.Path, "/api/") {
			problem(c, api.Problem{Type: "/problems/not-found", Title: "There is no such address", Status: http.StatusNotFound, Detail: c.Request.URL.Path})
			return
		}
		static.serve(c)
	})
	r.NoMethod(func(c *gin.Context) {
		problem(c, api.Problem{Type: "/problems/method", Title: "That cannot be done here", Status: http.StatusMethodNotAllowed, Detail: c.Request.Method + " " + c.Request.URL.Path})
	})
	return compressed(r)
}

// compressed sends answers of some size compressed, lightly: they are written anew each time.
func compressed(h http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.CompressionLevel(gzip.BestSpeed), gzhttp.MinSize(4<<10), gzhttp.EnableZstd(false))
	if err != nil {
		panic(err) // only for a level there is not
	}
	return wrap(h)
}

// HTTP is a server with its time limits set.
func HTTP(h http.Handler) *http.Server {
	return &http.Server{Handler: h, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
}

// Loopback reports whether an address to listen on stays on this machine.
func Loopback(addr string) bool {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return false
	}
	if host == "localhost" {
		return true
	}
	ip := net.ParseIP(host)
	return ip != nil && ip.IsLoopback()
}

func (s *Server) recover(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			s.log.Error("panic", "path", c.Request.URL.Path, "cause", r)
			problem(c, api.Problem{Type: "/problems/unexpected", Title: "Something went wrong in the program", Status: http.StatusInternalServerError, Detail: "If a change was under way, the history says whether it was made."})
		}
	}()
	c.Next()
}

func (s *Server) headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
	c.Next()
}

// local refuses requests that name another host or come from another page.
func (s *Server) local(c *gin.Context) {
	host := c.Request.Host
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	ip := net.ParseIP(strings.Trim(host, "[]"))
	if host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		problem(c, api.Problem{Type: "/problems/host", Title: "This host name is not served", Status: http.StatusMisdirectedRequest, Detail: c.Request.Host})
		return
	}
	if o := c.GetHeader("Origin"); o != "" {
		u, err := url.Parse(o)
		if err != nil || u.Host != c.Request.Host {
			problem(c, api.Problem{Type: "/problems/origin", Title: "Another page may not use this program", Status: http.StatusForbidden, Detail: o})
			return
		}
	}
	c.Next()
}

func (s *Server) limit(c *gin.Context) {
	n := int64(maxBody)
	if strings.HasSuffix(c.Request.URL.Path, "/import/boundaries") || strings.HasSuffix(c.Request.URL.Path, "/blocks") {
		n = maxImport
	}
	if strings.HasSuffix(c.Request.URL.Path, "/restore") {
		n = maxCopy
	}
	for _, long := range []string{"/heights", "/weather"} {
		if strings.HasSuffix(c.Request.URL.Path, long) {
			n = maxRecord
		}
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, n)
	c.Next()
}

func (s *Server) logged(c *gin.Context) {
	start := time.Now()
	c.Next()
	s.log.Debug("request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "took", time.Since(start))
}
