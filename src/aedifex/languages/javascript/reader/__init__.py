"""JavaScript text into the model: grammar, expressions, functions, statements, scopes, hindrances."""
