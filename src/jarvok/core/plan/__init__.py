"""What stands over season and week together: how the season is spent, and what is said from the sessions."""
