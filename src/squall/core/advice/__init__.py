"""What to buy and what to change: ranking, levers, doubt, trials."""
