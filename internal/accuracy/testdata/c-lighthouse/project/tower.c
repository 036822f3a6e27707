/* Several lights on one tower. */
#include "lamp.h"

struct tower { lamp *upper, *lower; };

struct tower raise(void) {
    struct tower t = {lamp_new(20, 1), lamp_new(20, 4)};
    t.lower->colour = "G";
    return t;
}

int both(struct tower t) {
    char text[32];
    lamp_log("%d", t.upper->period);
    return lamp_code(t.upper, text) + lamp_code(t.lower, text);
}

void strike(struct tower t) {
    lamp_free(t.upper);
    lamp_free(t.lower);
}
