"""What runs beside a built program and plays recorded calls again."""
