"""Small scripts, each with one thing that a careless rewriting loses."""
