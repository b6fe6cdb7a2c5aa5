"""Text into the model: grammar, expressions, statements, scopes, hindrances."""
