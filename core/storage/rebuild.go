package storage

import (
	"levelstaff/core/lab"
)

// Rebuild is what it takes to make a lost drive of a set anew, at best: without anything
// else to do.
type Rebuild struct {
	Hours float64
	Reads int64 // bytes that are read of the other drives
	Known bool  // false where nothing can be rebuilt, or sizes are not known
}

// sustained is what a drive reads and writes for hours, in MB/s, where nobody said it:
// 150 for platters; for flash what its interface lets through: SATA 6 Gb/s 600, SAS
// 12 Gb/s 1200, and NVMe over four lanes of PCIe 3.0 3940.
func sustained(p *lab.Part) float64 {
	switch {
	case p.RateMB != nil:
		return *p.RateMB
	case p.Medium != "ssd":
		return 150
	case p.Interface == "nvme", p.Interface == "" && p.Form == "m.2":
		return 3940
	case p.Interface == "sas":
		return 1200
	}
	return 600
}

// rebuild is that of the drive that takes longest.
func (s *Set) rebuild(redundant int, members []Member) Rebuild {
	var longest Rebuild
	for i, d := range s.Drives {
		if d.Part == nil || members[i].Bytes == 0 {
			continue
		}
		reads, can := s.reads(i, redundant, members)
		hours := float64(members[i].Bytes) / (sustained(d.Part) * 1e6) / 3600
		if can && hours > longest.Hours {
			longest = Rebuild{hours, reads, true}
		}
	}
	return longest
}

// reads is what is read to make one drive anew. Of a layer over k drives it takes all
// others less the redundancy that is left; of a mirror one other drive.
func (s *Set) reads(lost, redundant int, members []Member) (int64, bool) {
	size := members[lost].Bytes
	n, smallest := int64(len(members)), members[0].Bytes
	others := int64(0)
	for i, m := range members {
		smallest = min(smallest, m.Bytes)
		if i != lost {
			others += min(m.Bytes, size)
		}
	}
	switch s.Layout {
	case lab.Single, lab.Stripe:
		return 0, false
	case lab.Mirror, lab.RAID10:
		return smallest, true
	case lab.Replicated:
		return size, true
	case lab.DedicatedParity, lab.Mixed:
		return max(size, others-int64(redundant-1)*size), true
	}
	return (n - int64(parityOf(s.Layout))) * smallest, true
}
