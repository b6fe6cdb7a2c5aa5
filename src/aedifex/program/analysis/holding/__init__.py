"""What values a program holds where: which places may have the same object."""
