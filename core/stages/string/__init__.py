"""String (DC side): what each string should read now, what it reads, whether it may be plugged."""
