#include "cellar.h"

int round_up(double celsius) { return coldchain_round(celsius + 0.4); }

int below(struct store *s) { return s->frost; }
