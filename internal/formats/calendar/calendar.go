// Package calendar writes lessons as iCalendar (RFC 5545), for the calendars
// that schools have already.
package calendar

import (
	"fmt"
	"io"
	"time"

	ics "github.com/arran4/golang-ical"

	"freshapron/internal/core/fit"
)

// A Lesson is what a calendar shows of one.
type Lesson struct {
	UID   string // the same for the same lesson, whenever it is written
	Room  string
	Says  string // in a sentence: does it fit, and how sure is that
	Stamp time.Time
	Zone  *time.Location // of the school's clocks
}

// Write writes a lesson with its checkpoints, each an entry of its own with an
// alarm when it comes.
func Write(to io.Writer, about Lesson, l fit.Lesson, p *fit.Plan) error {
	date, err := time.Parse(time.DateOnly, l.Date)
	if err != nil {
		return fmt.Errorf("a calendar needs the date of the lesson: %w", err)
	}
	at := func(minute float64) time.Time {
		return time.Date(date.Year(), date.Month(), date.Day(), 0, int(l.Start), 0, 0, about.Zone).Add(time.Duration(minute * float64(time.Minute)))
	}
	c := ics.NewCalendarFor("Fresh Apron")
	c.SetMethod(ics.MethodPublish)
	e := c.AddEvent(about.UID)
	e.SetDtStampTime(about.Stamp)
	e.SetStartAt(at(0))
	e.SetEndAt(at(float64(l.End - l.Start)))
	e.SetSummary(l.Title)
	e.SetLocation(about.Room)
	e.SetDescription(about.Says)
	for i, point := range fit.Checkpoints(l, p) {
		e := c.AddEvent(fmt.Sprintf("%s-%d", about.UID, i+1))
		e.SetDtStampTime(about.Stamp)
		e.SetStartAt(at(point.At))
		e.SetEndAt(at(point.At + 1))
		e.SetSummary(point.Says())
		e.SetLocation(about.Room)
		alarm := e.AddAlarm()
		alarm.SetAction(ics.ActionDisplay)
		alarm.SetTrigger("PT0M")
		alarm.SetProperty(ics.ComponentPropertyDescription, point.Says())
	}
	return c.SerializeTo(to, ics.WithNewLine("\r\n")) // as RFC 5545 asks
}

// A Job is an entry of a day's work.
type Job struct {
	UID         string
	From, Until time.Time
	Says, More  string
}

// WriteJobs writes jobs, each an entry of its own.
func WriteJobs(to io.Writer, list []Job, stamp time.Time) error {
	c := ics.NewCalendarFor("Fresh Apron")
	c.SetMethod(ics.MethodPublish)
	for _, j := range list {
		e := c.AddEvent(j.UID)
		e.SetDtStampTime(stamp)
		e.SetStartAt(j.From)
		e.SetEndAt(j.Until)
		e.SetSummary(j.Says)
		e.SetDescription(j.More)
	}
	return c.SerializeTo(to, ics.WithNewLine("\r\n"))
}
