package server_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// powered is a site with a UPS, a server with two supplies and an amplifier.
func powered(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	const text = "lab \"Q\": 230V\ncircuit \"kitchen\": 16A\n? wall outlet \"left\": 2 outlets uk, on circuit \"kitchen\"\n" +
		"? ups \"keep\": 900W, 4 outlets c13 battery\n? server \"anvil\": 2 supply bays, 100W typical, 300W max\n? amplifier \"amp\"\n" +
		"left/out1 - keep/in1\nkeep/out1 - anvil/in1\nkeep/out2 - amp/in1\n"
	a := s.ask("POST", "/api/v1/rundown", fmt.Sprintf(`{"base_revision":%d,"text":%q}`, s.revision(), text))
	require.Equal(t, 200, a.status, a.body)
	return s
}

func TestPowerIsAResourceAndAReport(t *testing.T) {
	s := powered(t)
	circuits := s.ask("GET", "/api/v1/circuits", "")
	assert.Contains(t, circuits.body, `"name":"kitchen","amps":16`)
	a := s.ask("PATCH", "/api/v1/circuits/"+idOf(t, s, "circuits", "kitchen"), `{"amps":20}`)
	require.Equal(t, 200, a.status, a.body)
	feeds := s.ask("GET", "/api/v1/reports/feeds", "")
	assert.Contains(t, feeds.body, `"name":"kitchen","kind":"circuit"`)
	assert.Contains(t, feeds.body, `"limit_w":3680`, "20 A x 230 V x 0.8")
	assert.Contains(t, feeds.body, `"supplies":[{"port":"in1","fed":true},{"port":"in2"}]`)
	losses := s.ask("GET", "/api/v1/reports/losses", "")
	assert.Contains(t, losses.body, `{"what":"keep","dark":["amp","anvil"],"on_one_leg":[]`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/findings", "").body, `"say":"Supply in2 of anvil is plugged in nowhere."`)
	circle := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":"keep/out3 - keep/in1"}`, s.revision()))
	assert.Equal(t, 422, circle.status, circle.body)
}

func TestTheOutletPlanIsReadWithAPreview(t *testing.T) {
	s := powered(t)
	send := func(path, text string) answer {
		return s.ask("POST", "/api/v1/files/"+path, fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	}
	const table = "feeder,outlet,device,supply\nkeep,out2,,\nkeep,out3,anvil,in2\n"
	look := send("outlet_plan.csv/check", table)
	require.Equal(t, 200, look.status, look.body)
	assert.Contains(t, look.body, "keep/out3 feeds anvil/in2")
	assert.Contains(t, s.ask("GET", "/api/v1/files/outlet_plan.csv", "").body, "keep,out2,amp,in1,c13,holds,\n", "a look changes nothing")
	require.Equal(t, 200, send("outlet_plan.csv", table).status)
	after := s.ask("GET", "/api/v1/files/outlet_plan.csv", "").body
	assert.Contains(t, after,
		"keep,out1,anvil,in1,c13,holds,50\nkeep,out2,,,c13,holds,\nkeep,out3,anvil,in2,c13,holds,50\n", "each gives half")
	before := s.revision()
	refused(t, send("outlet_plan.csv", "feeder,outlet,device\nkeep,out1,amp\nkeep,out9,amp\n"), 422, "text:3", "Nothing was loaded")
	refused(t, send("outlet_plan.csv", "who,what\n"), 422, "text", "columns feeder, outlet and device")
	assert.Equal(t, before, s.revision(), "all or none")
	assert.Equal(t, "PK", s.ask("GET", "/api/v1/files/outlet_plan.xlsx", "").body[:2])
}

func TestThePowerTableIsRead(t *testing.T) {
	s := powered(t)
	send := func(text string) answer {
		return s.ask("POST", "/api/v1/files/power_table.csv", fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	}
	require.Equal(t, 200, send("device,idle_w,measured_w\namp,12,40\n").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/power_table.csv", "").body, "amp,,12,,,40,40,measured,keep/out2\n")
	refused(t, send("device,most_w\nanvil,20\n"), 422, "text:2", "Nothing was loaded")
	assert.Equal(t, "PK", s.ask("GET", "/api/v1/files/power_table.xlsx", "").body[:2])
}

func TestAnOrderIsSuggestedAndThePlanIsAFile(t *testing.T) {
	s := powered(t)
	for _, line := range []string{"keep: 500W for 14min, 1000W for 5min", "? switch \"core\": 20W", "keep/out3 - core/in1"} {
		require.Equal(t, 200, s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%q}`, s.revision(), line)).status, line)
	}
	assert.Contains(t, s.ask("GET", "/api/v1/files/shutdown_plan.md", "").body, "| anvil | **lost**: nothing says when it goes |")
	order := func() answer {
		return s.ask("POST", "/api/v1/power/order", fmt.Sprintf(`{"base_revision":%d}`, s.revision()))
	}
	require.Equal(t, 200, order().status)
	devices := s.ask("GET", "/api/v1/devices/"+idOf(t, s, "devices", "anvil"), "").body
	assert.Contains(t, devices, `"goes":{"at_percent":60}`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/shutdown", "").body, `"device":"anvil"`)
	plan := s.ask("GET", "/api/v1/files/shutdown_plan.md", "")
	assert.Contains(t, plan.body, "# When the mains fail: Q")
	assert.Contains(t, plan.body, "| 60 % | anvil |")
	refused(t, order(), 409, "", "has its time already")
	before := s.revision()
	refused(t, s.ask("PATCH", "/api/v1/devices/"+idOf(t, s, "devices", "anvil"), `{"goes":{"at_percent":160}}`), 422,
		"goes.at_percent", "percent")
	dear := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":"lab: price -1 a kWh"}`, before))
	assert.Equal(t, 422, dear.status)
	assert.Contains(t, dear.body, "a price is 0 or more, not -1")
	assert.Equal(t, before, s.revision())
}

func TestMinutesAloneAreAtTheLoadThereIs(t *testing.T) {
	s := powered(t)
	for _, line := range []string{"lab: GBP, price 0.50 a kWh", "keep: 35min"} {
		require.Equal(t, 200, s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%q}`, s.revision(), line)).status, line)
	}
	for _, param := range []string{"reports/cost?off=soon", "reports/battery?add=much", "reports/shutdown?back=-1", "reports/heat?rise=0"} {
		assert.Equal(t, 400, s.ask("GET", "/api/v1/"+param, "").status, param)
	}
	now := s.ask("GET", "/api/v1/reports/battery", "").body
	assert.Contains(t, now, `"minutes":35,"rests_on":"points","beyond":true`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/battery?add=100", "").body, `"minutes_add":17.5`)
}
