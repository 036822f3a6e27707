#include <stdlib.h>
#include "cellar.h"

int raise_alarm(struct store *s)
{
    if (alarm_level = s->warmest > 6)
        system("true");
    return alarm_level;
}

int oldest(struct coldchain_probe *p, int n)
{
    int most = 0;
    for (int i = 0; i < n; i++)
        if (coldchain_minutes(&p[i]) > most)
            most = coldchain_minutes(&p[i]);
    return most;
}
