#include <stdio.h>
#include "ledger.h"

int ledger_write(struct store *s, char *line, int room)
{
    return snprintf(line, room, "%s %.1f %s", s->name, s->warmest, state_name(coldchain_judge(s->warmest)));
}

long ledger_sum(const int *crates, int n)
{
    long sum = 0;
    for (int i = 0; i < n; i++)
        sum += crates[i];
    return sum;
}

long ledger_week(void)
{
    long crates[7] = {12, 9, 14, 11, 8, 15, 10};
    return ledger_sum(crates, 7);
}
