"""The commands, one file each; a file named `survey` holds `aedifex survey` as `command`."""
