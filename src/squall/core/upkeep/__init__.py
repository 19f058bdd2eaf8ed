"""What wears on a kit, as its visits tell it: slow states with their doubt, and what they will make of its water."""
