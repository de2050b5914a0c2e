package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/lab"
)

func TestWhatPeopleCallWhatTheyAskFor(t *testing.T) {
	assert.Equal(t, []string{"web", "https", "http", "web", "https"}, lab.UsualWords("https", 443))
	assert.Equal(t, []string{"names", "dns"}, lab.UsualWords("", 53))
	assert.Empty(t, lab.UsualWords("", 12345))
	assert.True(t, lab.IsUsualWord("printing"))
	assert.False(t, lab.IsUsualWord("all"))
}
