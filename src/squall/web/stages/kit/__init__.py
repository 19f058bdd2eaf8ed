"""What the Kits page is made of: its search, its filters, kits entered by hand."""
