"""Parts beside each other: what a dearer one does that a cheaper one does not."""
