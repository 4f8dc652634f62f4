"""What is put right once after a migration, with the application's own reading of its facts."""
