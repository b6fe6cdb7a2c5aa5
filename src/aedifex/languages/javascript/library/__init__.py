"""What is known of JavaScript's own library, of the document's, and of Node's."""
