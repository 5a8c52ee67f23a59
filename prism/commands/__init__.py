"""What an edit is: a named command, what its sentences call things, and commands of the project as a whole."""
