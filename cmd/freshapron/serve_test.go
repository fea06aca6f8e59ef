package main

import (
	"net/netip"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The environment says where the program listens, whom it believes about addresses, and
// what time it is; what can't be is refused with the name of the variable.
func TestWhatTheEnvironmentSays(t *testing.T) {
	assert.Equal(t, "127.0.0.1:8080", config{Port: 8080}.address(), "loopback, where nothing else is said")
	assert.Equal(t, "0.0.0.0:80", config{Port: 8080, Address: "0.0.0.0:80"}.address())

	at, err := config{Now: "2026-11-26T09:00:00+01:00"}.clock()
	require.NoError(t, err)
	assert.True(t, at().Equal(time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)))
	assert.True(t, at().Equal(at()), "it stands still")
	going, err := config{}.clock()
	require.NoError(t, err)
	assert.WithinDuration(t, time.Now(), going(), time.Minute)
	_, err = config{Now: "Thursday at nine"}.clock()
	assert.ErrorContains(t, err, "FRESH_APRON_NOW")

	list, err := config{Proxies: []string{"10.0.0.2", " 10.1.0.0/16 ", "fd00::1"}}.proxies()
	require.NoError(t, err)
	assert.Equal(t, []netip.Prefix{netip.MustParsePrefix("10.0.0.2/32"), netip.MustParsePrefix("10.1.0.0/16"), netip.MustParsePrefix("fd00::1/128")}, list)
	none, err := config{}.proxies()
	require.NoError(t, err)
	assert.Empty(t, none, "nobody is believed where nobody is named")
	for _, bad := range []string{"proxy.example", "10.0.0.0/99", ""} {
		_, err := config{Proxies: []string{bad}}.proxies()
		assert.ErrorContains(t, err, "FRESH_APRON_PROXIES: “"+bad+"” is no address")
	}
}
