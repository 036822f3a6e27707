#include "lamp.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
static int mode;
lamp *lamp_new(int period, int flashes) { lamp *l = calloc(1, sizeof *l); l->period = period; l->flashes = flashes; l->colour = "W"; return l; }
void lamp_free(lamp *l) { free(l); }
int lamp_tick(lamp *l, int s) { return s % l->period < l->flashes; }
int lamp_run(lamp *l, int n, lamp_cb cb) { int lit = 0; for (int s = 0; s < n; s++) if (lamp_tick(l, s)) { lit++; if (cb) cb(s); } return lit; }
int lamp_code(const lamp *l, char *out) { return sprintf(out, "Fl(%d) %s %ds", l->flashes, l->colour, l->period); }
double lamp_range(int c) { return c / 1000.0; }
int lamp_parse(const char *t, lamp *l) { return sscanf(t, "%d/%d", &l->flashes, &l->period) == 2 ? 0 : -1; }
void lamp_set_mode(lamp *l, int m) { (void)l; mode = m; }
void lamp_fog(lamp *l, int on) { lamp_set_mode(l, on); }
int lamp_log(const char *f, int v) { return snprintf(NULL, 0, f, v); }
int lamp_mode(const lamp *l) { (void)l; return mode; }
int lamp_sum(const int *list, size_t n) { int s = 0; while (n--) s += list[n]; return s; }
