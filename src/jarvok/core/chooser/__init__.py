"""From everything known of an athlete to what a week should hold because of it, each with its reason."""
