package network

// sets are numbers that are joined to sets of them.
type sets struct{ up []int32 }

func newSets(n int) *sets {
	s := &sets{make([]int32, n)}
	for i := range s.up {
		s.up[i] = int32(i)
	}
	return s
}

// root is the same for all numbers of a set.
func (s *sets) root(i int32) int32 {
	for s.up[i] != i {
		s.up[i] = s.up[s.up[i]]
		i = s.up[i]
	}
	return i
}

// join makes one set of two, and reports whether they were two.
func (s *sets) join(a, b int32) bool {
	a, b = s.root(a), s.root(b)
	s.up[max(a, b)] = min(a, b)
	return a != b
}
