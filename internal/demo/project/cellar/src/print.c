#include <stdio.h>
#include "cellar.h"

void print_store(struct store *s)
{
    char line[64];
    ledger_write(s, line, sizeof line);
    printf(line);
    printf("\n");
    if (too_warm(s->warmest))
        puts(coldchain_label(0));
}

void print_age(struct coldchain_probe *p)
{
    printf("%d min since %.1f\n", coldchain_minutes(p), p->celsius);
}
