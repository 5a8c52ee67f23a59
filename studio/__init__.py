"""The web application: it shows and stores, and computes nothing."""
