"""The project: settings, addresses, the API as a whole."""
