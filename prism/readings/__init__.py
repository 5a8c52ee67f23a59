"""What the rooms read off a document: the sheet, the contrast matrix, the texts of a scene."""
