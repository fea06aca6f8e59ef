// Package side does work side by side on a bounded number of workers.
package side

import (
	"fmt"
	"runtime/debug"
	"sync"
)

// A Panic is what a worker panicked with, and where.
type Panic struct {
	Value any
	Stack []byte
}

// Error says what the worker panicked with.
func (p *Panic) Error() string { return fmt.Sprintf("a worker panicked: %v", p.Value) }

// By calls do once for each of so many workers, all at the same time, and
// returns when the last has returned. Where one of them panics, so does By, on
// the goroutine of its caller and with a *Panic: whoever asked can recover.
func By(workers int, do func(worker int)) {
	var wait sync.WaitGroup
	var once sync.Once
	var first *Panic
	for w := range workers {
		wait.Go(func() {
			defer func() {
				if v := recover(); v != nil {
					once.Do(func() { first = &Panic{v, debug.Stack()} })
				}
			}()
			do(w)
		})
	}
	wait.Wait()
	if first != nil {
		panic(first)
	}
}
