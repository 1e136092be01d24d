"""Moving and offsetting a shape's outline."""
