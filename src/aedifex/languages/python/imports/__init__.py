"""Modules and files: what star imports bring, where imports lead, who imports whom."""
