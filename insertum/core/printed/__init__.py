"""What stands printed on a part or is said of it in a title: one reader of a drive's words and one of a radio's. Labels,
titles, lists, gauges and Survey read with them; memory labels have a standard of their own (``standards.module_label``)."""
