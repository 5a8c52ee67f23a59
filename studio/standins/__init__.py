"""Small simulated stand-ins for outside services; each says that it is one."""
