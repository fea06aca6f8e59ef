// Package work does what outlives a request: searches that go on whether or
// not anybody waits, and what many ask for at the same moment and is worked
// out once. What panics comes back as an error to whoever asked.
package work

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime"
	"runtime/debug"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"golang.org/x/sync/semaphore"
	"golang.org/x/sync/singleflight"
)

// ErrEnding says that the program is about to stop and begins nothing new.
var ErrEnding = errors.New("the program is about to stop")

// A Runner runs work. It is safe for many goroutines.
type Runner struct {
	asked singleflight.Group
	slots *semaphore.Weighted // of patient work

	ctx   context.Context // ends when the runner is drained
	end   context.CancelFunc
	mutex sync.Mutex
	ended bool
	open  sync.WaitGroup
	runs  map[string]any // *Run of what goes on, by key
}

// New returns a runner that does so many pieces of patient work at once.
func New(atOnce int64) *Runner {
	ctx, end := context.WithCancel(context.Background())
	return &Runner{slots: semaphore.NewWeighted(atOnce), ctx: ctx, end: end, runs: map[string]any{}}
}

// Drain begins nothing new, tells what goes on to end, and waits for it, no
// longer than the context lasts.
func (r *Runner) Drain(ctx context.Context) error {
	r.mutex.Lock()
	r.ended = true
	r.mutex.Unlock()
	r.end()
	all := make(chan struct{})
	go func() {
		r.open.Wait()
		close(all)
	}()
	select {
	case <-all:
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}

// Once works something out for everybody who asks under the key while it is
// being worked out. Whoever leaves early keeps the others from nothing.
func Once[V any](r *Runner, key string, f func() (V, error)) (V, error) {
	v, err, _ := r.asked.Do(key, func() (any, error) { return Safely(f) })
	out, _ := v.(V)
	return out, err
}

// Safely is f with its panic as an error.
func Safely[V any](f func() (V, error)) (v V, err error) {
	defer func() {
		if fault := recover(); fault != nil {
			slog.Error("panic", "fault", fault, "stack", string(debug.Stack()))
			err = fmt.Errorf("panic: %v", fault)
		}
	}()
	return f()
}

// A Run is work that goes on by itself.
type Run[V any] struct {
	done, all atomic.Int64
	ended     chan struct{}
	value     V
	err       error
}

// Progress returns how much is done, of how much.
func (r *Run[V]) Progress() (done, all int) { return int(r.done.Load()), int(r.all.Load()) }

// Failed reports whether the run has ended with an error.
func (r *Run[V]) Failed() bool {
	select {
	case <-r.ended:
		return r.err != nil
	default:
		return false
	}
}

// Wait waits for the end, or for so long, and returns what came of it; false
// where it has not ended.
func (r *Run[V]) Wait(ctx context.Context, most time.Duration) (V, bool, error) {
	timer := time.NewTimer(most)
	defer timer.Stop()
	select {
	case <-r.ended:
		return r.value, true, r.err
	case <-ctx.Done():
	case <-timer.C:
	}
	var none V
	return none, false, nil
}

// Behind begins work under a key, or returns the run that goes on under it.
// Work behind is patient: a few pieces at once, at the lowest priority; it ends
// early when its context does, which is when the program stops. Keep is called
// with what came of it before others may begin one under the key again.
func Behind[V any](r *Runner, key string, f func(ctx context.Context, progress func(done, all int)) (V, error), keep func(V)) *Run[V] {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	if run, ok := r.runs[key].(*Run[V]); ok {
		return run
	}
	run := &Run[V]{ended: make(chan struct{})}
	run.all.Store(1)
	if r.ended {
		run.err = ErrEnding
		close(run.ended)
		return run
	}
	r.runs[key] = run
	r.open.Go(func() {
		if run.err = r.slots.Acquire(r.ctx, 1); run.err == nil {
			run.value, run.err = Patiently(func() (V, error) {
				return f(r.ctx, func(done, all int) {
					run.all.Store(int64(all))
					run.done.Store(max(run.done.Load(), int64(done)))
				})
			})
			r.slots.Release(1)
		}
		if run.err == nil && keep != nil {
			keep(run.value)
		}
		r.mutex.Lock()
		delete(r.runs, key)
		r.mutex.Unlock()
		close(run.ended)
	})
	return run
}

// niceness of work that may wait: the system gives it what pages leave.
const niceness = 19

// Stay begins work that goes on until the runner is drained, once for each key.
func (r *Runner) Stay(key string, f func(ctx context.Context)) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	if _, begun := r.runs[key]; begun || r.ended {
		return
	}
	r.runs[key] = nil
	r.open.Go(func() {
		_, _ = Safely(func() (struct{}, error) { f(r.ctx); return struct{}{}, nil })
		r.mutex.Lock()
		delete(r.runs, key)
		r.mutex.Unlock()
	})
}

// Patiently does work on a thread of low priority and returns when it is done.
func Patiently[V any](f func() (V, error)) (v V, err error) {
	var wait sync.WaitGroup
	wait.Go(func() {
		// A thread's priority can't be raised again, so it is not given back:
		// it ends with this goroutine.
		runtime.LockOSThread()
		// Where the system refuses, the work is done at the usual priority.
		_ = syscall.Setpriority(syscall.PRIO_PROCESS, syscall.Gettid(), niceness)
		v, err = Safely(f)
	})
	wait.Wait()
	return v, err
}

// Patient is Patiently for work that gives nothing back. A panic reaches
// whoever asked.
func Patient(f func()) {
	var fault any
	_, _ = Patiently(func() (struct{}, error) {
		defer func() { fault = recover() }()
		f()
		return struct{}{}, nil
	})
	if fault != nil {
		panic(fault)
	}
}
