#include "lamp.h"
/* These uses compile with either version. */
static inline double miles(int candela) { return lamp_range(candela); }
static inline int oil(const int *days, int n) { return lamp_sum(days, n); }
