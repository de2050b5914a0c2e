package lab

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/text/currency"
)

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

// ParseMoney reads an amount as a person writes it, "32", "£32.50", "-1,200",
// "32,50 EUR", in whole minor units of the lab's currency. The error is a
// sentence about what was typed.
func ParseMoney(typed, code string) (int64, error) {
	digits := minorDigits(code)
	wrong := fmt.Errorf("%s is not an amount of money; write one such as 32 or 32.50, below zero for what comes in", quote(typed))
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

// MoneyText writes an amount in minor units with its currency: "32.50 GBP",
// without one while the lab's currency is unknown.
func MoneyText(minor int64, code string) string {
	digits := minorDigits(code)
	text := strconv.FormatFloat(float64(minor)/math.Pow10(digits), 'f', digits, 64)
	if whole, cents, _ := strings.Cut(text, "."); strings.Trim(cents, "0") == "" {
		text = whole
	}
	return strings.TrimSpace(text + " " + code)
}
