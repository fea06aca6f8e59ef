package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"os/signal"
	"runtime"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"freshapron/internal/app/school"
	"freshapron/internal/core/pattern"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/web"
	"freshapron/internal/web/ui"
)

// config comes from the environment; every setting has a default that works.
type config struct {
	DatabaseURL string     `env:"DATABASE_URL"`
	Address     string     `env:"FRESH_APRON_ADDR"`
	Port        int        `env:"PORT" envDefault:"8080"`
	LogLevel    slog.Level `env:"FRESH_APRON_LOG" envDefault:"info"`
	// Public is where people find the site. With https:// cookies go over TLS
	// only; behind a proxy that ends TLS, set it.
	Public string `env:"FRESH_APRON_URL_PUBLIC"`
	// Proxies are the addresses, or networks, of proxies in front of the program: where
	// one of them has connected, its X-Forwarded-For says who asks.
	Proxies []string `env:"FRESH_APRON_PROXIES"`
	// Now stops the clock at an RFC 3339 time, for tests and pictures.
	Now string `env:"FRESH_APRON_NOW"`
}

func (c config) address() string {
	if c.Address != "" {
		return c.Address
	}
	return fmt.Sprintf("127.0.0.1:%d", c.Port)
}

func (c config) clock() (school.Clock, error) {
	if c.Now == "" {
		return time.Now, nil
	}
	at, err := time.Parse(time.RFC3339, c.Now)
	if err != nil {
		return nil, fmt.Errorf("FRESH_APRON_NOW: %w", err)
	}
	return func() time.Time { return at }, nil
}

func (c config) proxies() ([]netip.Prefix, error) {
	var out []netip.Prefix
	for _, text := range c.Proxies {
		text = strings.TrimSpace(text)
		if a, err := netip.ParseAddr(text); err == nil {
			out = append(out, netip.PrefixFrom(a, a.BitLen()))
			continue
		}
		p, err := netip.ParsePrefix(text)
		if err != nil {
			return nil, fmt.Errorf("FRESH_APRON_PROXIES: “%s” is no address such as 10.0.0.2, and no network such as 10.0.0.0/24", text)
		}
		out = append(out, p)
	}
	return out, nil
}

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "serve",
		Short: "Serve the application with the demonstration school",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(c.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx)
		},
	}
}

func migrateCommand() *cobra.Command {
	laid := false
	c := &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database's schema up to date",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			cfg, err := env.ParseAs[config]()
			if err != nil {
				return err
			}
			s, err := open(c.Context(), cfg)
			if err != nil {
				return err
			}
			if laid {
				clock, wrong := cfg.clock()
				if err = wrong; err == nil {
					_, err = demo.Open(c.Context(), s, today(clock))
				}
			}
			return errors.Join(err, s.Close())
		},
	}
	c.Flags().BoolVar(&laid, "demonstration", false, "lay the demonstration school in, too")
	return c
}

// today is the day of a clock where a school is.
func today(clock school.Clock) func(*time.Location) time.Time {
	return func(loc *time.Location) time.Time {
		now := clock().In(loc)
		return time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
	}
}

// open connects to the database and brings its schema up to date.
func open(ctx context.Context, cfg config) (*store.Store, error) {
	if cfg.DatabaseURL == "" {
		return nil, errors.New("DATABASE_URL is not set: run ./start, which brings its own PostgreSQL, or name one")
	}
	s, err := store.Open(cfg.DatabaseURL)
	if err != nil {
		return nil, err
	}
	if err := s.Migrate(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("migrate: %w", err), s.Close())
	}
	return s, nil
}

// drain is how long requests may take to finish when the server stops.
const drain = 10 * time.Second

// memory is from how many bytes on the program would rather collect than grow: with
// twenty lessons live it fits into a small machine. GOMEMLIMIT says otherwise.
const memory = 225 << 20

func serve(ctx context.Context) error {
	// Searches for what would help take every processor, at low priority. With
	// more threads than processors, it is the system that chooses who runs, and
	// pages go first.
	runtime.GOMAXPROCS(2 * runtime.NumCPU())
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memory)
	}
	cfg, err := env.ParseAs[config]()
	if err != nil {
		return err
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: cfg.LogLevel})))
	clock, err := cfg.clock()
	if err != nil {
		return err
	}
	proxies, err := cfg.proxies()
	if err != nil {
		return err
	}
	assets, err := ui.Built()
	if err != nil {
		return err
	}
	listener, err := net.Listen("tcp", cfg.address())
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("another program already serves on %s: stop it, or set PORT to a free port", cfg.address())
	}
	if err != nil {
		return err
	}
	defer listener.Close()
	s, err := open(ctx, cfg)
	if err != nil {
		return err
	}
	defer closeSoon(s)
	shown, err := demo.Open(ctx, s, today(clock))
	if err != nil {
		return err
	}
	site := school.NewSite(s, clock)
	if site.Address = cfg.Public; site.Address == "" {
		site.Address = "http://" + listener.Addr().String()
	}
	go func() {
		pattern.Ready()
		if err := site.For(shown).Warm(ctx); err != nil && ctx.Err() == nil {
			slog.Warn("the shelf could not be made ready", "error", err)
		}
	}()
	site.Work.Stay("sweep", func(ctx context.Context) { sweep(ctx, s, clock) })
	server := &http.Server{
		Handler:           web.Handler(web.Site{App: site, Assets: assets, Ping: s.Ping, Secure: strings.HasPrefix(cfg.Public, "https://"), Proxies: proxies}),
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       time.Minute,
		WriteTimeout:      time.Minute,
		IdleTimeout:       2 * time.Minute,
	}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	fmt.Printf("Fresh Apron serves %s on http://%s\n", shown.Name, listener.Addr())
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
		ending, cancel := context.WithTimeout(context.WithoutCancel(ctx), drain)
		defer cancel()
		if err := site.Work.Drain(ending); err != nil {
			slog.Warn("work that did not end was cut off", "error", err)
		}
		if err := server.Shutdown(ending); err != nil {
			slog.Warn("requests that did not end were cut off", "error", err)
			return server.Close()
		}
		return nil
	}
}

// sweep throws away what its day has ended of, of every school, once an hour.
func sweep(ctx context.Context, s *store.Store, clock school.Clock) {
	every := time.NewTicker(time.Hour)
	defer every.Stop()
	for {
		schools, err := s.Schools(ctx)
		for _, one := range schools {
			err = errors.Join(err, one.Sweep(ctx, clock()))
		}
		if err != nil && ctx.Err() == nil {
			slog.Warn("not everything whose day has ended could be thrown away", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-every.C:
		}
	}
}

// closeSoon closes the connections to the database, but does not wait for one
// that is held: it ends with the program.
func closeSoon(s *store.Store) {
	closed := make(chan error, 1)
	go func() { closed <- s.Close() }()
	const patience = time.Second
	select {
	case err := <-closed:
		if err != nil {
			slog.Warn("close the database", "error", err)
		}
	case <-time.After(patience):
		slog.Warn("a connection to the database was still held")
	}
}
