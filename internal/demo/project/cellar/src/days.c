#include "cellar.h"

int days_kept(long since, long now)
{
    char *label = since;
    long from = label ? since : now;
    return (now - from) / 86400;
}

static day_of_season(long now) { return now / 86400 % 365; }

int season(long now)
{
    return day_of_season(now) > 240 ? strlen("harvest") : 0;
}
