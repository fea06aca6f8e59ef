// Package door is where people come in: signing in, links that set a
// password, and signing out. Nothing else of the application is seen without
// coming through here.
package door

import (
	"embed"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"freshapron/internal/app"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

// lasts is how long somebody stays signed in: a long school day.
const lasts = 14 * time.Hour

// Sessions returns what keeps people signed in. Secure cookies go over TLS
// only.
func Sessions(s *app.Site, secure bool) *scs.SessionManager {
	m := scs.New()
	m.Store = store.Sessions{Store: s.Store, Now: time.Now}
	m.HashTokenInStore = true
	m.Lifetime = lasts
	m.Cookie.Name = "fresh-apron"
	m.Cookie.HttpOnly = true
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.Secure = secure
	if secure {
		m.Cookie.Name = "__Host-fresh-apron"
	}
	m.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		slog.ErrorContext(r.Context(), "session", "error", err, "request", middleware.GetReqID(r.Context()))
		http.Error(w, "The database did not answer as it should. Nothing was changed. Go back and try again in a moment.", http.StatusServiceUnavailable)
	}
	return m
}

type place struct {
	*app.Site
	*frame.Frame
	sessions *scs.SessionManager
}

// Routes adds the pages that need nobody to be signed in.
func Routes(r chi.Router, s *app.Site, f *frame.Frame, sessions *scs.SessionManager) {
	p := &place{s, f, sessions}
	r.Get("/signin", p.signInForm)
	r.Post("/signin", p.signIn)
	r.Post("/signin/demonstration", p.signInOffered)
	r.Get("/signin/forgotten", p.forgottenForm)
	r.Post("/signin/forgotten", p.forgotten)
	r.Get("/link/{token}", p.link)
	r.Post("/link/{token}", p.follow)
	r.Post("/signout", p.signOut)
}

type signIn struct {
	To, Email string
	Problem   string
	Says      string
	Offered   []offer
}

type offer struct{ ID, Name, Role, Does string }

func (p *place) form(w http.ResponseWriter, r *http.Request, status int, s signIn) {
	list, err := p.Offered(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	for _, a := range list {
		s.Offered = append(s.Offered, offer{fmt.Sprint(a.ID), a.Name, a.Role.Name(), a.Role.Does()})
	}
	p.Render(w, r, status, templates, "signin", frame.Page{Title: "Sign in", Data: s})
}

func (p *place) signInForm(w http.ResponseWriter, r *http.Request) {
	says := ""
	if r.URL.Query().Has("set") {
		says = "Your password is set. Sign in with it."
	}
	p.form(w, r, http.StatusOK, signIn{To: within(r.URL.Query().Get("to")), Says: says})
}

// within keeps an address to come back to inside the application.
func within(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.IsAbs() || u.Host != "" || !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") || strings.Contains(to, "\\") {
		return "/"
	}
	return to
}

func (p *place) signIn(w http.ResponseWriter, r *http.Request) {
	in := signIn{To: within(r.PostFormValue("to")), Email: r.PostFormValue("email")}
	account, err := p.SignIn(r.Context(), in.Email, r.PostFormValue("password"), from(r))
	switch {
	case errors.Is(err, app.ErrWrong):
		in.Problem = "This address and this password don’t belong together. Check both, or set a new password."
		p.form(w, r, http.StatusUnprocessableEntity, in)
	case errors.Is(err, app.ErrTooMany):
		in.Problem = fmt.Sprintf("There were too many attempts. Wait %d minutes, or set a new password.", int(app.Window.Minutes()))
		p.form(w, r, http.StatusTooManyRequests, in)
	case errors.Is(err, app.ErrBusy):
		in.Problem = "Many people sign in at this moment. Try again in half a minute."
		w.Header().Set("Retry-After", "30")
		p.form(w, r, http.StatusServiceUnavailable, in)
	case err != nil:
		p.Error(w, r, err)
	default:
		p.enter(w, r, account, in.To)
	}
}

func (p *place) signInOffered(w http.ResponseWriter, r *http.Request) {
	account, err := p.SignInOffered(r.Context(), r.PostFormValue("account"))
	switch {
	case errors.Is(err, app.ErrWrong):
		p.form(w, r, http.StatusUnprocessableEntity, signIn{To: "/", Problem: "The demonstration has no such account. Choose one below."})
	case err != nil:
		p.Error(w, r, err)
	default:
		p.enter(w, r, account, within(r.PostFormValue("to")))
	}
}

// enter signs somebody in, under a new token.
func (p *place) enter(w http.ResponseWriter, r *http.Request, a store.Account, to string) {
	ctx := r.Context()
	if err := p.sessions.Destroy(ctx); err != nil {
		p.Error(w, r, err)
		return
	}
	if err := p.sessions.RenewToken(ctx); err != nil {
		p.Error(w, r, err)
		return
	}
	p.sessions.Put(ctx, store.SessionSchool, a.School)
	p.sessions.Put(ctx, store.SessionAccount, a.ID)
	p.sessions.Put(ctx, store.SessionAgent, agent(r.UserAgent()))
	p.sessions.Put(ctx, store.SessionBegan, time.Now().Unix())
	http.Redirect(w, r, to, http.StatusSeeOther)
}

// agent keeps what a browser says of itself to a length that can be shown.
func agent(s string) string {
	const most = 200
	return strings.ToValidUTF8(s[:min(most, len(s))], "")
}

// from names where a request comes from.
func from(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

func (p *place) signOut(w http.ResponseWriter, r *http.Request) {
	if err := p.sessions.Destroy(r.Context()); err != nil {
		p.Error(w, r, err)
		return
	}
	http.Redirect(w, r, "/signin", http.StatusSeeOther)
}

func (p *place) forgottenForm(w http.ResponseWriter, r *http.Request) {
	p.Render(w, r, http.StatusOK, templates, "forgotten", frame.Page{Title: "A new password", Data: signIn{}})
}

func (p *place) forgotten(w http.ResponseWriter, r *http.Request) {
	email := r.PostFormValue("email")
	if err := p.Forgotten(r.Context(), email, from(r)); err != nil {
		p.Error(w, r, err)
		return
	}
	p.Render(w, r, http.StatusOK, templates, "forgotten", frame.Page{Title: "A new password", Data: signIn{
		Says: "If somebody here has that address, a link is on its way to it. It can be used once, for an hour.",
	}})
}

type link struct{ Token, Name, Email, Problem string }

func (p *place) link(w http.ResponseWriter, r *http.Request) {
	token := chi.URLParam(r, "token")
	account, err := p.Link(r.Context(), token)
	if err != nil {
		p.spent(w, r, err)
		return
	}
	p.Render(w, r, http.StatusOK, templates, "link", frame.Page{Title: "Set your password", Data: link{token, account.Name, account.Email, ""}})
}

func (p *place) follow(w http.ResponseWriter, r *http.Request) {
	token := chi.URLParam(r, "token")
	account, err := p.FollowLink(r.Context(), token, r.PostFormValue("password"))
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.Render(w, r, http.StatusUnprocessableEntity, templates, "link", frame.Page{Title: "Set your password", Data: link{token, account.Name, account.Email, problems[0].Says}})
	case err != nil:
		p.spent(w, r, err)
	default:
		http.Redirect(w, r, "/signin?set", http.StatusSeeOther)
	}
}

// spent answers for a link that does not count.
func (p *place) spent(w http.ResponseWriter, r *http.Request, err error) {
	if !errors.Is(err, store.ErrNotFound) {
		p.Error(w, r, err)
		return
	}
	p.Render(w, r, http.StatusNotFound, templates, "spent", frame.Page{Title: "This link does not count"})
}

// SignedIn lets through only whoever is signed in, and says who that is.
func SignedIn(s *app.Site, f *frame.Frame, sessions *scs.SessionManager) func(http.Handler) http.Handler {
	p := &place{s, f, sessions}
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			id := sessions.GetInt64(r.Context(), store.SessionAccount)
			if id == 0 {
				p.outside(w, r)
				return
			}
			account, err := s.SignedIn(r.Context(), id)
			switch {
			case errors.Is(err, store.ErrNotFound):
				p.outside(w, r)
			case err != nil:
				f.Error(w, r, err)
			default:
				next.ServeHTTP(w, r.WithContext(app.As(r.Context(), account)))
			}
		})
	}
}

// held is a form that somebody sent while they were signed out, to be sent
// again.
type held struct {
	Action string
	Fields []struct{ Name, Value string }
}

// maxHeld is the size of the largest form that is handed back.
const maxHeld = 1 << 20

// heldOf reads a form that can be handed back; files can't.
func heldOf(w http.ResponseWriter, r *http.Request) held {
	h := held{Action: r.URL.RequestURI()}
	r.Body = http.MaxBytesReader(w, r.Body, maxHeld)
	if err := r.ParseForm(); err != nil {
		return held{}
	}
	for name, values := range r.PostForm {
		for _, v := range values {
			h.Fields = append(h.Fields, struct{ Name, Value string }{name, v})
		}
	}
	return h
}

// outside answers for somebody who is not signed in. What was sent with a form
// is handed back with the page, to be sent again.
func (p *place) outside(w http.ResponseWriter, r *http.Request) {
	switch {
	case r.Header.Get("HX-Request") == "true":
		w.Header().Set("X-Signed-Out", "true")
		http.Error(w, "You are signed out. Sign in in another window, then go on here: what you typed is still there.", http.StatusUnauthorized)
	case r.Method == http.MethodGet || r.Method == http.MethodHead:
		http.Redirect(w, r, "/signin?to="+url.QueryEscape(r.URL.RequestURI()), http.StatusSeeOther)
	default:
		p.Render(w, r, http.StatusUnauthorized, templates, "outside", frame.Page{Title: "You are signed out", Data: heldOf(w, r)})
	}
}
