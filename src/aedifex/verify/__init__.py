"""Running a program before and after in the same scripted world, and comparing what the two did."""
