"""The report page: its facts, its code with links, and its template."""
