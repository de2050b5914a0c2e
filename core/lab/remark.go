package lab

// Remarked is a record on which unusual phrases are kept as they were said:
// "not bolted", "open frame".
type Remarked struct {
	Remarks []string `json:"remarks,omitempty" nullable:"false" maxItems:"40" description:"Unusual phrases, kept as they were said"`
}

const (
	maxRemarks = 40
	maxRemark  = 200
)

func (r Remarked) check(f *faults) {
	if len(r.Remarks) > maxRemarks {
		f.add("remarks", "has %d entries; at most %d are allowed", len(r.Remarks), maxRemarks)
	}
	for _, s := range r.Remarks {
		f.need("remarks", s)
		f.line("remarks", s, maxRemark)
	}
}
