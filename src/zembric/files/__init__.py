"""Foreign file formats into plain rows and text, for the web application and the commands alike."""
