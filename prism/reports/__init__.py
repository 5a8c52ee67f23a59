"""What the checks have to say, to be read elsewhere: as JSON, CSV and SARIF."""
