"""The rules of the job: functions over frozen values, standard library only.

Entry points lie here and nothing else: assess, command line, bench, interlocks, registry of rules,
offers of newer sheets. No framework, no clock, no file but the data that ships.
"""
