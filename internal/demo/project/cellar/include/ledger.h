#ifndef LEDGER_H
#define LEDGER_H

#include "cellar.h"

int ledger_write(struct store *s, char *line, int room);
long ledger_sum(const int *crates, int n);

#endif
