#ifndef CELLAR_H
#define CELLAR_H

#include "coldchain.h"

/* The stores of the cellar, and how warm each was last. */
enum { STORES = 3 };
int alarm_level;
int last_store;

struct store { const char *name; char frost; double warmest; };

int probe_all(struct store *stores);
double mean(const double *values, int n);
const char *state_name(enum coldchain_state s);
void print_store(struct store *s);
int days_kept(long since, long now);

#endif
