"""Text in, text out: decoding, spans, edits with their provenance, atomic writing."""
