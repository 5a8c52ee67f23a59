"""Balance: how evenly colors stand out in two modes."""
