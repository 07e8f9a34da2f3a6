"""Makes texts and files that nobody would make on purpose, and has Firn read them: ./run fuzz [MINUTES] [SEED …]."""
