package app

import (
	"runtime"
	"sync"
	"syscall"

	"freshapron/internal/core/fit"
)

// patience is the niceness of work that may wait: the system gives it what
// pages leave.
const patience = 19

// behind is how plans are made that nobody needs to see a page: side by side,
// on as many processors as there are, but only while no page wants them.
func (a *App) behind() fit.Options {
	opt := a.Planning
	opt.Workers, opt.Run = runtime.NumCPU(), patiently
	return opt
}

// patiently does work on a thread of low priority and returns when it is done.
func patiently(work func()) {
	var wait sync.WaitGroup
	wait.Go(func() {
		// A thread's priority can't be raised again, so it is not given back:
		// it ends with this goroutine.
		runtime.LockOSThread()
		// Where the system refuses, the work is done at the usual priority.
		_ = syscall.Setpriority(syscall.PRIO_PROCESS, syscall.Gettid(), patience)
		work()
	})
	wait.Wait()
}
