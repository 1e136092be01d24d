"""A built lettering broken apart into flat shapes: faces, facets, sides, lines, shadows."""
