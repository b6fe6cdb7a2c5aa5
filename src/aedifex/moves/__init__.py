"""The moves: small rewritings that keep behaviour, one file each."""
