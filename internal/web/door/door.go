// Package door is where people come in: signing in, links that set a
// password, and signing out. Nothing else of the application is seen without
// coming through here.
package door

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

// lasts is how long somebody stays signed in: a long school day.
const lasts = 14 * time.Hour

// A Door is where people come in to a site.
type Door struct {
	*people.Door
	*frame.Frame
	sessions *scs.SessionManager
	proxies  []netip.Prefix // whose word on where a request comes from is taken
}

// New returns the door of a site. Secure cookies go over TLS only.
func New(at *people.Door, f *frame.Frame, secure bool, proxies []netip.Prefix) *Door {
	m := scs.New()
	m.Store = at.Sessions()
	m.HashTokenInStore = true
	m.Lifetime = lasts
	m.Cookie.Name = "fresh-apron"
	m.Cookie.HttpOnly = true
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.Secure = secure
	if secure {
		m.Cookie.Name = "__Host-fresh-apron"
	}
	m.ErrorFunc = f.Error
	d := &Door{at, f, m, proxies}
	f.StillIn = d.stillIn
	return d
}

// stillIn reports whether whoever has sent a request that is still being answered is
// still signed in.
func (p *Door) stillIn(r *http.Request) bool {
	ctx, cancel := context.WithTimeout(context.Background(), time.Second) // without what was read of the session
	defer cancel()
	ctx, err := p.sessions.Load(ctx, p.sessions.Token(r.Context()))
	if err != nil {
		return false
	}
	_, err = p.Door.SignedIn(ctx, p.sessions.GetInt64(ctx, people.SessionAccount))
	return err == nil
}

// Sessions keeps people signed in.
func (p *Door) Sessions(next http.Handler) http.Handler { return p.sessions.LoadAndSave(next) }

// Routes adds the pages that need nobody to be signed in.
func (p *Door) Routes(r chi.Router) {
	const most = 1 << 20
	at := func(method, path string, do frame.Handler) {
		r.MethodFunc(method, path, func(w http.ResponseWriter, r *http.Request) {
			r.Body = http.MaxBytesReader(w, r.Body, most)
			p.Answer(w, r, do)
		})
	}
	at("GET", "/signin", p.signInForm)
	at("POST", "/signin", p.signIn)
	at("POST", "/signin/demonstration", p.signInOffered)
	at("GET", "/signin/forgotten", p.forgottenForm)
	at("POST", "/signin/forgotten", p.forgotten)
	at("GET", "/link/{token}", p.link)
	at("POST", "/link/{token}", p.follow)
	at("POST", "/signout", p.signOut)
}

type signIn struct {
	To, Email string
	Problem   string
	Says      string
	Offered   []offer
}

type offer struct{ ID, Name, Role, Does string }

func (p *Door) form(w http.ResponseWriter, r *http.Request, status int, s signIn) error {
	list, err := p.Offered(r.Context())
	if err != nil {
		return err
	}
	for _, a := range list {
		s.Offered = append(s.Offered, offer{fmt.Sprint(a.ID), a.Name, a.Role.Name(), a.Role.Does()})
	}
	return p.Render(w, r, status, templates, "signin", frame.Page{Title: "Sign in", Data: s})
}

func (p *Door) signInForm(w http.ResponseWriter, r *http.Request) error {
	says := ""
	if r.URL.Query().Has("set") {
		says = "Your password is set. Sign in with it."
	}
	return p.form(w, r, http.StatusOK, signIn{To: within(r.URL.Query().Get("to")), Says: says})
}

// within keeps an address to come back to inside the application.
func within(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.IsAbs() || u.Host != "" || !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") || strings.Contains(to, "\\") {
		return "/"
	}
	return to
}

func (p *Door) signIn(w http.ResponseWriter, r *http.Request) error {
	in := signIn{To: within(r.PostFormValue("to")), Email: r.PostFormValue("email")}
	account, err := p.Door.SignIn(r.Context(), in.Email, r.PostFormValue("password"), p.from(r))
	switch {
	case errors.Is(err, people.ErrWrong):
		in.Problem = "This address and this password don’t belong together. Check both, or set a new password."
		return p.form(w, r, http.StatusUnprocessableEntity, in)
	case errors.Is(err, people.ErrTooMany):
		in.Problem = fmt.Sprintf("There were too many attempts. Wait %d minutes, or set a new password.", int(people.Window.Minutes()))
		return p.form(w, r, http.StatusTooManyRequests, in)
	case errors.Is(err, people.ErrBusy):
		in.Problem = "Many people sign in at this moment. Try again in half a minute."
		w.Header().Set("Retry-After", "30")
		return p.form(w, r, http.StatusServiceUnavailable, in)
	case err != nil:
		return err
	default:
		return p.enter(w, r, account, in.To)
	}
}

func (p *Door) signInOffered(w http.ResponseWriter, r *http.Request) error {
	account, err := p.Door.SignInOffered(r.Context(), r.PostFormValue("account"))
	switch {
	case errors.Is(err, people.ErrWrong):
		return p.form(w, r, http.StatusUnprocessableEntity, signIn{To: "/", Problem: "The demonstration has no such account. Choose one below."})
	case err != nil:
		return err
	default:
		return p.enter(w, r, account, within(r.PostFormValue("to")))
	}
}

// enter signs somebody in, under a new token.
func (p *Door) enter(w http.ResponseWriter, r *http.Request, a people.Account, to string) error {
	ctx := r.Context()
	if err := p.sessions.Destroy(ctx); err != nil {
		return err
	}
	if err := p.sessions.RenewToken(ctx); err != nil {
		return err
	}
	p.sessions.Put(ctx, people.SessionSchool, a.School)
	p.sessions.Put(ctx, people.SessionAccount, a.ID)
	p.sessions.Put(ctx, people.SessionAgent, agent(r.UserAgent()))
	p.sessions.Put(ctx, people.SessionBegan, time.Now().Unix())
	return frame.See(w, r, to)
}

// agent keeps what a browser says of itself to a length that can be shown.
func agent(s string) string {
	const most = 200
	return strings.ToValidUTF8(s[:min(most, len(s))], "")
}

// from names where a request comes from: who has connected, or, where that is a trusted
// proxy, whom it and those before it name, up to the first who is not trusted.
func (p *Door) from(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	named := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
	for len(named) > 0 && p.trusts(host) {
		last := strings.TrimSpace(named[len(named)-1])
		if _, err := netip.ParseAddr(last); err != nil {
			break
		}
		host, named = last, named[:len(named)-1]
	}
	return host
}

func (p *Door) trusts(host string) bool {
	a, err := netip.ParseAddr(host)
	return err == nil && slices.ContainsFunc(p.proxies, func(n netip.Prefix) bool { return n.Contains(a.Unmap()) })
}

func (p *Door) signOut(w http.ResponseWriter, r *http.Request) error {
	if err := p.sessions.Destroy(r.Context()); err != nil {
		return err
	}
	return frame.See(w, r, "/signin")
}

func (p *Door) forgottenForm(w http.ResponseWriter, r *http.Request) error {
	return p.Render(w, r, http.StatusOK, templates, "forgotten", frame.Page{Title: "A new password", Data: signIn{}})
}

func (p *Door) forgotten(w http.ResponseWriter, r *http.Request) error {
	email := r.PostFormValue("email")
	err := p.Forgotten(r.Context(), email, p.from(r))
	if errors.Is(err, people.ErrTooMany) {
		return p.Render(w, r, http.StatusTooManyRequests, templates, "forgotten", frame.Page{Title: "A new password", Data: signIn{
			Email: email, Problem: fmt.Sprintf("Too many links were asked for from here, so this one was not sent. Wait %d minutes, or ask your head of food, who can send one.", int(people.Window.Minutes())),
		}})
	}
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "forgotten", frame.Page{Title: "A new password", Data: signIn{
		Says: "If somebody here has that address, a link is on its way to it. It can be used once, for an hour.",
	}})
}

type link struct{ Token, Name, Email, Problem string }

func (p *Door) link(w http.ResponseWriter, r *http.Request) error {
	token := chi.URLParam(r, "token")
	account, err := p.Link(r.Context(), token)
	if err != nil {
		return p.spent(w, r, err)
	}
	return p.Render(w, r, http.StatusOK, templates, "link", frame.Page{Title: "Set your password", Data: link{token, account.Name, account.Email, ""}})
}

func (p *Door) follow(w http.ResponseWriter, r *http.Request) error {
	token := chi.URLParam(r, "token")
	account, err := p.FollowLink(r.Context(), token, r.PostFormValue("password"))
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		return p.Render(w, r, http.StatusUnprocessableEntity, templates, "link", frame.Page{Title: "Set your password", Data: link{token, account.Name, account.Email, problems[0].Says}})
	case err != nil:
		return p.spent(w, r, err)
	default:
		return frame.See(w, r, "/signin?set")
	}
}

// spent answers for a link that does not count.
func (p *Door) spent(w http.ResponseWriter, r *http.Request, err error) error {
	if !errors.Is(err, school.ErrNotFound) {
		return err
	}
	return p.Render(w, r, http.StatusNotFound, templates, "spent", frame.Page{Title: "This link does not count"})
}

// SignedIn lets through only whoever is signed in, and says who that is and in
// which school.
func (p *Door) SignedIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		p.Answer(w, r, func(w http.ResponseWriter, r *http.Request) error {
			ctx := r.Context()
			account, err := p.Door.SignedIn(ctx, p.sessions.GetInt64(ctx, people.SessionAccount))
			if errors.Is(err, school.ErrNotFound) {
				return p.outside(w, r)
			}
			if err != nil {
				return err
			}
			here, err := p.Of(ctx, account.School)
			if err != nil {
				return err
			}
			next.ServeHTTP(w, r.WithContext(school.As(ctx, here, account)))
			return nil
		})
	})
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
func (p *Door) outside(w http.ResponseWriter, r *http.Request) error {
	switch {
	case r.Header.Get("HX-Request") == "true":
		w.Header().Set("X-Signed-Out", "true")
		http.Error(w, "You are signed out. Sign in in another window, then go on here: what you typed is still there.", http.StatusUnauthorized)
		return nil
	case r.Method == http.MethodGet || r.Method == http.MethodHead:
		return frame.See(w, r, "/signin?to="+url.QueryEscape(r.URL.RequestURI()))
	}
	return p.Render(w, r, http.StatusUnauthorized, templates, "outside", frame.Page{Title: "You are signed out", Data: heldOf(w, r)})
}
