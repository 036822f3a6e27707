/* What the chart says of a light. */
#include "lamp.h"
#include <string.h>

int entry(const lamp *l, char *out) { return lamp_code(l, out); }

int red(const lamp *l) { return strcmp(l->colour, "R") == 0; }

void paint(lamp *l) {
    l->colour = "R";
    l->period = 12;
}

int read_entry(const char *text, lamp *l) {
    if (lamp_parse(text, l) != LAMP_OK)
        return -1;
    return l->period;
}

int busiest(void) { return LAMP_MAX_FLASHES; }
