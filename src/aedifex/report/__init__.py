"""Tables, pictures and pages made from results. Nothing here prints."""
