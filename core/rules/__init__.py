"""One public function is one rule, marked @rule, with its data sheet; a folder for each subject.

A rule takes figures and gives a judgement or a figure; it knows no job.
"""
