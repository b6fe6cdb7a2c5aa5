"""From evidence to classes: the search, names, reasons and doubts."""
