"""Where water stands and how much there is."""
