/* The keeper's watch: lights, nights, oil. */
#include "lamp.h"
#include <stdio.h>

static void wink(int second) { printf("%d\n", second); }

int watch(int hours) {
    int spare;
    lamp *l = lamp_new(10, 2);
    int lit = lamp_run(l, hours * 3600, wink);
    lamp_free(l);
    return lit;
}

int quiet(void) {
    lamp *l = lamp_new(15, LAMP_MAX_FLASHES);
    int n = lamp_run(l, 60, NULL);
    lamp_log("lit %d", n);
    lamp_free(l);
    return n;
}

int slow(const lamp *l) { return l->period > 30; }
