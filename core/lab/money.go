package lab

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
	"unicode"

	"golang.org/x/text/currency"
)

// Money is what is known of what a thing cost and until when what was promised
// with it holds.
type Money struct {
	PriceMinor    *int64   `json:"price_minor,omitempty" description:"What was paid, in whole minor units of the lab's currency"`
	BoughtOn      When     `json:"bought_on,omitempty"`
	Got           Got      `json:"got,omitempty" description:"How it was acquired"`
	WarrantyUntil When     `json:"warranty_until,omitempty"`
	ReturnUntil   When     `json:"return_until,omitempty"`
	Yearly        []Yearly `json:"yearly,omitempty" maxItems:"20" description:"Licences and subscriptions"`
}

// Yearly is something that is paid for every year.
type Yearly struct {
	What   string `json:"what" required:"true" maxLength:"80"`
	Minor  *int64 `json:"minor,omitempty" description:"A year, in whole minor units of the lab's currency"`
	EndsOn When   `json:"ends_on,omitempty"`
}

// Got is how a thing came into the house.
type Got string

// Bought new, bought used, or for nothing.
const (
	BoughtNew  Got = "new"
	BoughtUsed Got = "used"
	ForFree    Got = "free"
)

var ways = []Got{BoughtNew, BoughtUsed, ForFree}

// Enum lists the ways for the published schema.
func (Got) Enum() []any { return anys(ways) }

func (m Money) check(f *faults) {
	price := func(field string, v *int64) {
		if v != nil && (*v < 0 || *v > maxPrice) {
			f.add(field, "that cannot be a price: it is 0 or more, and left out while unknown")
		}
	}
	price("price_minor", m.PriceMinor)
	f.when("bought_on", m.BoughtOn)
	optional(f, "got", m.Got, ways)
	f.when("warranty_until", m.WarrantyUntil)
	f.when("return_until", m.ReturnUntil)
	if len(m.Yearly) > 20 {
		f.add("yearly", "has %d licences and subscriptions; at most 20 are allowed", len(m.Yearly))
	}
	for _, y := range m.Yearly {
		f.need("yearly", y.What)
		f.name("yearly", y.What)
		price("yearly", y.Minor)
		f.when("yearly", y.EndsOn)
	}
}

// When is a day, or just its month or year where no more is known: 2024-03-09,
// 2024-03, 2024. Such texts sort by time.
type When string

// Last is the last day that it may mean; ok is false while it is unknown.
func (w When) Last() (t time.Time, ok bool) {
	switch len(w) {
	case len("2006"):
		t, err := time.Parse("2006", string(w))
		return t.AddDate(1, 0, -1), err == nil
	case len("2006-01"):
		t, err := time.Parse("2006-01", string(w))
		return t.AddDate(0, 1, -1), err == nil
	}
	t, err := time.Parse(time.DateOnly, string(w))
	return t, err == nil
}

// Year is the year it is in; ok is false while it is unknown.
func (w When) Year() (int, bool) {
	t, ok := w.Last()
	return t.Year(), ok
}

func (f *faults) when(field string, w When) {
	if t, ok := w.Last(); w != "" && (!ok || t.Year() < 1970 || t.Year() > 2200) {
		f.add(field, "%s is not a day, month or year; write one such as 2024-03-09, 2024-03 or 2024", quote(string(w)))
	}
}

// minorDigits is how many decimals a currency has (ISO 4217), 2 if it is not
// known which it is.
func minorDigits(code string) int {
	unit, err := currency.ParseISO(code)
	if err != nil {
		return 2
	}
	digits, _ := currency.Standard.Rounding(unit)
	return digits
}

// IsCurrency reports whether a word is the code of a currency (ISO 4217), in
// capitals as they are written.
func IsCurrency(word string) bool {
	_, err := currency.ParseISO(word)
	return err == nil && len(word) == 3 && strings.ToUpper(word) == word
}

// ParseMoney reads an amount as a person writes it, "32", "£32.50", "-1,200",
// "32,50 EUR", in whole minor units of the lab's currency. The error is a
// sentence about what was typed.
func ParseMoney(typed, code string) (int64, error) {
	if other := otherCurrency(typed, code); other != "" {
		if code == "" {
			return 0, fmt.Errorf("%s is in %s, and the lab's currency is not set yet; set it, or write the amount alone", quote(typed), other)
		}
		return 0, fmt.Errorf("%s is in %s, and the lab's currency is %s; write the amount in %s", quote(typed), other, code, code)
	}
	digits := minorDigits(code)
	wrong := fmt.Errorf("%s is not an amount of money; write one such as 32 or 32.50, negative for income", quote(typed))
	s := strings.Map(func(r rune) rune {
		if r == '−' || r == '–' {
			return '-'
		}
		if unicode.IsSpace(r) || unicode.Is(unicode.Sc, r) || r == '\'' || r == '’' {
			return -1
		}
		return r
	}, typed)
	if code != "" {
		s = strings.TrimSuffix(strings.TrimPrefix(strings.ToUpper(s), strings.ToUpper(code)), strings.ToUpper(code))
	}
	whole, cents := s, ""
	if at := strings.LastIndexAny(s, ".,"); at >= 0 && digits > 0 && len(s)-at-1 <= digits {
		whole, cents = s[:at], s[at+1:]
	}
	whole = strings.NewReplacer(".", "", ",", "").Replace(whole)
	if whole == "" || whole == "-" || whole == "+" || strings.ContainsAny(whole, "eExX_") {
		return 0, wrong
	}
	v, err := strconv.ParseInt(whole+cents+strings.Repeat("0", digits-len(cents)), 10, 64)
	if err != nil || v > maxPrice || v < -maxPrice {
		return 0, wrong
	}
	return v, nil
}

// signs are the currencies that a sign may stand for.
var signs = map[rune]string{'$': "USD CAD AUD NZD SGD HKD TWD MXN BRL ARS CLP COP", '£': "GBP", '€': "EUR", '¥': "JPY CNY", '₹': "INR",
	'₩': "KRW", '₽': "RUB", '₺': "TRY", '₴': "UAH", '₪': "ILS", '₫': "VND", '฿': "THB"}

// otherCurrency finds a currency in an amount that is not the one meant.
func otherCurrency(typed, code string) string {
	for _, r := range typed {
		if names, ok := signs[r]; ok && code != "" && !strings.Contains(names, code) {
			return strings.Fields(names)[0]
		}
	}
	for _, w := range strings.FieldsFunc(strings.ToUpper(typed), func(r rune) bool { return r < 'A' || r > 'Z' }) {
		if _, err := currency.ParseISO(w); err == nil && w != code {
			return w
		}
	}
	return ""
}

// MoneyUnits is an amount in minor units as a number of whole ones.
func MoneyUnits(minor int64, code string) float64 {
	return float64(minor) / math.Pow10(minorDigits(code))
}

// MoneyText writes an amount in minor units as ParseMoney reads it: "£32.50",
// "32.50 CHF" where the currency has no sign, "32.50" while the lab's currency
// is unknown.
func MoneyText(minor int64, code string) string {
	digits := minorDigits(code)
	text := strconv.FormatFloat(float64(minor)/math.Pow10(digits), 'f', digits, 64)
	if whole, cents, _ := strings.Cut(text, "."); strings.Trim(cents, "0") == "" {
		text = whole
	}
	for sign, codes := range signs {
		if code != "" && strings.Contains(codes, code) {
			if owed, below := strings.CutPrefix(text, "-"); below {
				return "-" + string(sign) + owed
			}
			return string(sign) + text
		}
	}
	return strings.TrimSpace(text + " " + code)
}
