"""How much water is wanted, and when."""
