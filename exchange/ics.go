package exchange

import (
	"time"

	ics "github.com/arran4/golang-ical"

	"levelstaff/core/gear"
)

// WriteEndings writes what ends as an iCalendar file (RFC 5545): a whole day
// for each, with an alarm a week before.
func WriteEndings(endings []gear.Ending, now time.Time) []byte {
	cal := ics.NewCalendar()
	cal.SetProductId("-//Levelstaff//endings//EN")
	for _, e := range endings {
		day, ok := e.On.Last()
		if !ok {
			continue
		}
		event := cal.AddEvent(string(e.Record.ID) + "-" + string(e.On) + "-" + e.What + "@levelstaff")
		event.SetDtStampTime(now.UTC())
		event.SetAllDayStartAt(day)
		event.SetAllDayEndAt(day.AddDate(0, 0, 1))
		event.SetSummary(e.Title + ": " + e.What + " ends")
		alarm := event.AddAlarm()
		alarm.SetAction(ics.ActionDisplay)
		alarm.SetTrigger("-P7D")
		alarm.SetDescription(e.Title + ": " + e.What + " ends in a week")
	}
	return []byte(cal.Serialize())
}
