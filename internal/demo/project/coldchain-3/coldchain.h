/* coldchain 3.0.0: reads the probes of cold stores. */
#ifndef COLDCHAIN_H
#define COLDCHAIN_H

struct coldchain_probe { int number; long millikelvin; int seconds; };
enum coldchain_state { COLDCHAIN_OK, COLDCHAIN_ABOVE, COLDCHAIN_BELOW, COLDCHAIN_LOST };

static inline int coldchain_attach(struct coldchain_probe *p, int number) { p->number = number; p->millikelvin = 276650; p->seconds = 0; return 0; }
static inline double coldchain_read(struct coldchain_probe *p, int milliseconds) { (void)milliseconds; return (p->millikelvin - 273150) / 1000.0; }
static inline enum coldchain_state coldchain_judge(double celsius) { return celsius > 6 ? COLDCHAIN_ABOVE : celsius < -1 ? COLDCHAIN_BELOW : COLDCHAIN_OK; }
static inline __attribute__((deprecated("use coldchain_age"))) int coldchain_minutes(struct coldchain_probe *p) { return p->seconds / 60; }
static inline int coldchain_age(struct coldchain_probe *p) { return p->seconds; }
static inline const char *coldchain_name(int number) { (void)number; return "north"; }
static inline int coldchain_round(double celsius) { return (int)(celsius < 0 ? celsius - 0.999 : celsius); }

#endif
