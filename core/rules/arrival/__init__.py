"""Before the work: nameplate, permit, people, goods."""
