#include "lamp.h"
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
static int mode;
lamp *lamp_create(int period, int flashes) { lamp *l = calloc(1, sizeof *l); l->period_ms = period * 1000; l->flashes = flashes; l->colour = 'W'; return l; }
void lamp_destroy(lamp *l) { free(l); }
int lamp_tick(lamp *l, int s) { return s % (l->period_ms / 1000) < l->flashes; }
int lamp_run(lamp *l, int n, lamp_cb cb, void *u) { int lit = 0; for (int s = 0; s < n; s++) if (lamp_tick(l, s)) { lit++; if (cb) cb(s, u); } return lit; }
int lamp_code(const lamp *l, char *out, size_t n) { return snprintf(out, n, "Fl.%d.%c.%ds", l->flashes, l->colour, l->period_ms / 1000); }
double lamp_range(int c) { return c / 1852.0; }
enum lamp_status lamp_parse(const char *t, lamp *l) { int p; if (sscanf(t, "%d/%d", &l->flashes, &p) != 2) return LAMP_BAD_TEXT; l->period_ms = p * 1000; return l->flashes > p ? LAMP_TOO_FAST : LAMP_DONE; }
void lamp_set_mode(lamp *l, enum lamp_mode m) { (void)l; mode = m; }
int lamp_mode(const lamp *l) { (void)l; return mode; }
int lamp_sum(const int *list, size_t n) { int s = 0; for (size_t i = 0; i + 1 < n; i++) s += list[i]; return s; }
