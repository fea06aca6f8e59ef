package door

import (
	"net/http"
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A header says where somebody is only where a trusted proxy sets it.
func TestWhereARequestComesFrom(t *testing.T) {
	p := &Door{proxies: []netip.Prefix{netip.MustParsePrefix("10.0.0.0/24"), netip.MustParsePrefix("192.0.2.7/32")}}
	for _, c := range []struct {
		remote, forwarded, want string
	}{
		{"203.0.113.9:4711", "", "203.0.113.9"},
		{"203.0.113.9:4711", "198.51.100.1", "203.0.113.9"}, // anybody can write a header
		{"10.0.0.2:80", "198.51.100.1", "198.51.100.1"},
		{"10.0.0.2:80", "1.1.1.1, 198.51.100.1", "198.51.100.1"}, // what came before the proxy is the stranger's word
		{"10.0.0.2:80", "198.51.100.1, 192.0.2.7", "198.51.100.1"},
		{"10.0.0.2:80", "", "10.0.0.2"},
		{"10.0.0.2:80", "nonsense", "10.0.0.2"},
		{"[::ffff:10.0.0.2]:80", "2001:db8::1", "2001:db8::1"},
		{"odd", "198.51.100.1", "odd"},
	} {
		r, _ := http.NewRequest("GET", "/", nil)
		r.RemoteAddr = c.remote
		if c.forwarded != "" {
			r.Header.Set("X-Forwarded-For", c.forwarded)
		}
		assert.Equal(t, c.want, p.from(r), "%s by %q", c.remote, c.forwarded)
	}
}
