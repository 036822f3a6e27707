/* The fog signal. */
#include "lamp.h"

void fog_on(lamp *l) { lamp_fog(l, 1); }
void fog_off(lamp *l) { lamp_fog(l, 0); }
int fogged(const lamp *l) { return lamp_mode(l) == 1; }
