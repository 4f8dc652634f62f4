"""No tables of its own: the framework tells only applications with this module that the tables are up to date."""
