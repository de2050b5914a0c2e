package rundown

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// amount is money as it was typed; what it comes to depends on the lab's
// currency, which is known when the fact is set.
type amount struct {
	typed string
	got   lab.Got
	on    lab.When
}

// priced is an amount that is worked out, in minor units.
type priced struct {
	amount
	minor int64
}

func (a amount) in(s setting) (any, error) {
	v, err := lab.ParseMoney(a.typed, s.lab.Settings().Currency)
	if err != nil {
		return nil, err
	}
	if v < 0 {
		return nil, fmt.Errorf("a price is not below zero")
	}
	return priced{a, v}, nil
}

// stepPrice is what a step of a draft costs; negative for income.
func stepPrice() fact {
	return fact{of: scope(lab.KindStep), name: "price", field: "price_minor", words: []string{"price"}, example: "price 40", typedWhole: true,
		read: func(tokens []text.Token, _ bool) (any, error) { return money(text.Joined(tokens)), nil },
		set:  func(b box, v any) { b.(*lab.Step).PriceMinor, _ = v.(*int64) },
		show: func(l *lab.Lab, b box) string {
			if v := b.(*lab.Step).PriceMinor; v != nil {
				return lab.MoneyText(*v, l.Settings().Currency)
			}
			return ""
		},
		pattern: "price %s"}
}

// money is an amount as it was typed, which may be below zero.
type money string

func (m money) in(s setting) (any, error) {
	v, err := lab.ParseMoney(string(m), s.lab.Settings().Currency)
	return &v, err
}

// moneyFacts are what a thing cost and until when what was promised holds.
func moneyFacts[R any](of scope, at func(*R) *lab.Money) []fact {
	get := func(b box) *lab.Money { return at(b.(*R)) }
	price := fact{of: of, name: "price", field: "price_minor", group: Cost, words: []string{"paid"}, example: "paid 240 used 2024-03",
		number: func(b box) *float64 {
			if v := get(b).PriceMinor; v != nil {
				n := float64(*v)
				return &n
			}
			return nil
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			a := amount{}
			if n := len(tokens); n > 1 {
				if w, err := readWhen(tokens[n-1].Text); err == nil && tokens[n-1].Text != "" {
					a.on, tokens = w, tokens[:n-1]
				}
			}
			if n := len(tokens); n > 1 && slices.Contains([]string{"new", "used", "free"}, tokens[n-1].Plain) {
				a.got, tokens = lab.Got(tokens[n-1].Plain), tokens[:n-1]
			}
			a.typed = text.Joined(tokens)
			return a, nil
		},
		set: func(b box, v any) {
			m := get(b)
			a, ok := v.(priced)
			if !ok {
				m.PriceMinor = nil
				return
			}
			m.PriceMinor, m.Got, m.BoughtOn = &a.minor, cmp.Or(a.got, m.Got), cmp.Or(a.on, m.BoughtOn)
		},
		show: func(l *lab.Lab, b box) string {
			if v := get(b).PriceMinor; v != nil {
				return lab.MoneyText(*v, l.Settings().Currency)
			}
			return ""
		},
		write: func(l *lab.Lab, b box) string {
			m := get(b)
			if m.PriceMinor == nil {
				return ""
			}
			said := "paid " + lab.MoneyText(*m.PriceMinor, l.Settings().Currency)
			if m.Got != "" {
				said += " " + string(m.Got)
			}
			if m.BoughtOn != "" {
				said += " " + string(m.BoughtOn)
			}
			return said
		}}
	got := choice(of, "bought", "got", func(r *R) *lab.Got { return &at(r).Got }, []option[lab.Got]{
		{lab.BoughtNew, "bought new", []string{"new"}}, {lab.BoughtUsed, "bought used", []string{"used", "second hand", "bought second hand"}},
		{lab.ForFree, "got for free", []string{"free", "for free", "for nothing"}},
	}).under(Cost)
	withPrice := got.write
	got.write = func(l *lab.Lab, b box) string {
		if get(b).PriceMinor != nil {
			return "" // the price says it
		}
		return withPrice(l, b)
	}
	got.choices = []string{"new", "used", "free"}
	got.show = func(_ *lab.Lab, b box) string { return string(get(b).Got) }
	bought := day(of, "bought on", "bought_on", []string{"bought", "bought on"}, "bought 2024-03", func(r *R) *lab.When {
		return &at(r).BoughtOn
	})
	bought.write = func(_ *lab.Lab, b box) string {
		if m := get(b); m.PriceMinor == nil && m.BoughtOn != "" {
			return "bought " + string(m.BoughtOn)
		}
		return ""
	}
	return []fact{price, got, bought,
		day(of, "warranty until", "warranty_until", []string{"warranty until", "warranty"}, "warranty until 2027-03", func(r *R) *lab.When {
			return &at(r).WarrantyUntil
		}),
		day(of, "can go back until", "return_until", []string{"return until", "return by", "returns"}, "return until 2026-12-01",
			func(r *R) *lab.When {
				return &at(r).ReturnUntil
			}),
		yearly(of, get),
	}
}

func day[R any](of scope, name, jsonField string, words []string, example string, at func(*R) *lab.When) fact {
	return fact{of: of, name: name, field: jsonField, group: Cost, words: words, example: example, pattern: words[0] + " %s",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return readWhen(text.Joined(tokens))
		},
		set: func(b box, v any) {
			w, _ := v.(lab.When)
			*at(b.(*R)) = w
		},
		show: func(_ *lab.Lab, b box) string { return string(*at(b.(*R))) }}
}

// daysInWords are the ways people write days, months and years down. A day
// with the month in figures behind it is taken the way most of the world has
// it, day before month.
var daysInWords = []struct{ layout, keep string }{
	{time.DateOnly, time.DateOnly}, {"2006-1-2", time.DateOnly}, {"2006/1/2", time.DateOnly}, {"2.1.2006", time.DateOnly},
	{"2/1/2006", time.DateOnly}, {"2 Jan 2006", time.DateOnly}, {"2 January 2006", time.DateOnly}, {"Jan 2 2006", time.DateOnly},
	{"2006-01", "2006-01"}, {"2006-1", "2006-01"}, {"1/2006", "2006-01"}, {"1.2006", "2006-01"}, {"Jan 2006", "2006-01"},
	{"January 2006", "2006-01"}, {"2006", "2006"},
}

func readWhen(typed string) (lab.When, error) {
	for _, d := range daysInWords {
		if t, err := time.Parse(d.layout, typed); err == nil && t.Year() >= 1970 && t.Year() <= 2200 {
			return lab.When(t.Format(d.keep)), nil
		}
	}
	if shape := regexp.MustCompile(`^[0-9]{1,4}[-./][0-9]{1,2}[-./]?[0-9]{0,4}\.?$`); shape.MatchString(typed) {
		return "", fmt.Errorf("there is no day “%s”; write one such as 2024-03-09, 9.3.2024, 2024-03 or 2024", text.Short(typed))
	}
	return "", fmt.Errorf("“%s” is not a day, month or year; write one such as 2024-03-09, 2024-03 or 2024", text.Short(typed))
}

// yearly is what is paid for every year: yearly "firmware support" 60 until
// 2027-01.
func yearly(of scope, get func(box) *lab.Money) fact {
	return fact{of: of, name: "licences and subscriptions", field: "yearly", group: Cost, words: []string{"yearly"},
		example: `yearly "support" 60 until 2027-01`, many: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			var list yearlySaid
			for phrase := range text.Cut(tokens) {
				if phrase[0].Is("yearly") {
					phrase = phrase[1:]
				}
				if len(phrase) == 0 || phrase[0].Kind == text.Separator {
					return nil, fmt.Errorf(`say what is paid for, such as "support" 60 until 2027-01`)
				}
				y := yearSaid{what: phrase[0].Text}
				phrase = phrase[1:]
				if at := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("until") }); at >= 0 {
					w, err := readWhen(text.Joined(phrase[at+1:]))
					if err != nil {
						return nil, err
					}
					y.until, phrase = w, phrase[:at]
				}
				y.typed = text.Joined(phrase)
				list = append(list, y)
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Yearly)
			if list == nil {
				get(b).Yearly = nil
				return
			}
			get(b).Yearly = append(slices.Clone(get(b).Yearly), list...)
		},
		show: func(l *lab.Lab, b box) string { return yearlyText(l, get(b).Yearly, "") },
		write: func(l *lab.Lab, b box) string {
			return yearlyText(l, get(b).Yearly, "yearly ")
		}}
}

// yearlySaid are licences and subscriptions as they were typed.
type yearlySaid []yearSaid

type yearSaid struct {
	what, typed string
	until       lab.When
}

func (list yearlySaid) in(s setting) (any, error) {
	var out []lab.Yearly
	for _, y := range list {
		is := lab.Yearly{What: y.what, EndsOn: y.until}
		if y.typed != "" && y.typed != "?" {
			v, err := lab.ParseMoney(y.typed, s.lab.Settings().Currency)
			if err != nil {
				return nil, err
			}
			is.Minor = &v
		}
		out = append(out, is)
	}
	return out, nil
}

func yearlyText(l *lab.Lab, list []lab.Yearly, word string) string {
	var said []string
	for _, y := range list {
		s := word + text.Quote(y.What)
		if y.Minor != nil {
			s += " " + lab.MoneyText(*y.Minor, l.Settings().Currency)
		}
		if y.EndsOn != "" {
			s += " until " + string(y.EndsOn)
		}
		said = append(said, s)
	}
	return strings.Join(said, ", ")
}
