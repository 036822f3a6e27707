#include "signals.h"
#include <math.h>
#include <stdio.h>

static int number;
static void ok(int good, const char *name, double got, double want) {
    number++;
    if (good) { printf("ok %d - %s\n", number, name); return; }
    printf("not ok %d - %s\n# got %g, want %g\n", number, name, got, want);
}
static void near(const char *name, double got, double want) { ok(got - want < 0.01 && want - got < 0.01, name, got, want); }

int main(void) {
    int week[] = {3, 4, 5, 4, 3, 6, 7}, two[] = {1, 1};
    printf("1..9\n");
    near("range of 18520 candela", miles(18520), 18.52);
    near("range of 1000 candela", miles(1000), 1.0);
    near("range of nothing", miles(0), 0);
    near("range is even", miles(2000) / 2, 1.0);
    near("oil of a week", oil(week, 7), 32);
    near("oil of two days", oil(two, 2), 2);
    near("oil of no day", oil(two, 0), 0);
    near("oil of the feast", oil(week, 1), 3);
    near("oil forgotten", oil(week, 3), 11);
    return 0;
}
