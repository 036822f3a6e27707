#include <math.h>
#include <stdio.h>
#include <string.h>
#include "ledger.h"

int round_up(double);
int below(struct store *);
int too_warm(double);
int season(long);

static int count, failed;

static void is(const char *name, double got, double want)
{
    printf("%s %d - %s\n", got == want ? "ok" : "not ok", ++count, name);
    if (got != want) {
        failed = 1;
        printf("  ---\n  wanted: %g\n  found: %g\n  ...\n", want, got);
    }
}

int main(void)
{
    struct store stores[STORES];
    const double three[] = {2, 3, 4};
    printf("TAP version 13\n1..9\n");
    is("all stores are probed", probe_all(stores), 3);
    is("a store at three and a half is two below six", below(&stores[0]), -2);
    is("frost is below zero", below(&(struct store){"north", -3, 0}), -3);
    is("the mean of three", mean(three, 3), 3);
    is("seven degrees are too warm", too_warm(7), 1);
    is("half a degree of frost rounds to one", round_up(-0.9), -1);
    is("a crate is kept for two days", days_kept(86400, 3 * 86400L), 2);
    is("the state has a name", strcmp(state_name(COLDCHAIN_OK), "cold"), 0);
    is("summer is no harvest", season(86400), 0);
    return failed;
}
