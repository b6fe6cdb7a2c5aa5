"""What moves share: the rewriter, the binding check, clones, ways out."""
