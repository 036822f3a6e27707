from station import gale, log
from vane import Reading

print(log.summary("mill 350 2.5\nweir 10 3.5"))
print(gale.warning([Reading(350, 22)]) or "no warning", gale.at_sea(Reading(350, 22)))
