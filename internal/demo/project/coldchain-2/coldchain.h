/* coldchain 2.3.0: reads the probes of cold stores. */
#ifndef COLDCHAIN_H
#define COLDCHAIN_H

struct coldchain_probe { int number; double celsius; int age; };
enum coldchain_state { COLDCHAIN_OK, COLDCHAIN_WARM, COLDCHAIN_LOST };

static inline int coldchain_open(struct coldchain_probe *p, int number) { p->number = number; p->celsius = 3.5; p->age = 0; return 0; }
static inline double coldchain_read(struct coldchain_probe *p) { return p->celsius; }
static inline enum coldchain_state coldchain_judge(double celsius) { return celsius > 6 ? COLDCHAIN_WARM : COLDCHAIN_OK; }
static inline int coldchain_minutes(struct coldchain_probe *p) { return p->age / 60; }
static inline const char *coldchain_label(int number) { (void)number; return "north"; }
static inline int coldchain_round(double celsius) { return (int)(celsius + (celsius < 0 ? -0.5 : 0.5)); }

#endif
