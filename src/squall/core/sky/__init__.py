"""Sun, light, made weather, frost and wind."""
