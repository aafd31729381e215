"""Differences between painting and plan: values, colours, drawing, borders, finish."""
