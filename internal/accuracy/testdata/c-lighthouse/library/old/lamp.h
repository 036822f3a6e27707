#ifndef LAMP_H
#define LAMP_H
#include <stddef.h>
#define LAMP_VERSION 3
#define LAMP_MAX_FLASHES 12
#define LAMP_OK 0
typedef struct lamp {
    int period; /* seconds */
    int flashes;
    const char *colour;
} lamp;
typedef void (*lamp_cb)(int second);
lamp *lamp_new(int period, int flashes);
void lamp_free(lamp *l);
int lamp_tick(lamp *l, int second);
int lamp_run(lamp *l, int seconds, lamp_cb cb);
int lamp_code(const lamp *l, char *out);
double lamp_range(int candela);
int lamp_parse(const char *text, lamp *l);
void lamp_fog(lamp *l, int on) __attribute__((deprecated("use lamp_set_mode")));
void lamp_set_mode(lamp *l, int mode);
int lamp_log(const char *format, int value);
int lamp_mode(const lamp *l);
int lamp_sum(const int *list, size_t n);
#endif
