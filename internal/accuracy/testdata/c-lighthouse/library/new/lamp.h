#ifndef LAMP_H
#define LAMP_H
#include <stddef.h>
#define LAMP_VERSION 4
#define LAMP_FLASHES_MAX 12
enum lamp_status { LAMP_DONE, LAMP_BAD_TEXT, LAMP_TOO_FAST };
enum lamp_mode { LAMP_CLEAR, LAMP_FOG_BOUND };
typedef struct lamp {
    int period_ms;
    int flashes;
    char colour;
} lamp;
typedef void (*lamp_cb)(int second, void *user);
lamp *lamp_create(int period, int flashes);
void lamp_destroy(lamp *l);
int lamp_tick(lamp *l, int second);
int lamp_run(lamp *l, int seconds, lamp_cb cb, void *user);
int lamp_code(const lamp *l, char *out, size_t size);
double lamp_range(int candela);
enum lamp_status lamp_parse(const char *text, lamp *l);
void lamp_set_mode(lamp *l, enum lamp_mode mode);
int lamp_mode(const lamp *l);
int lamp_sum(const int *list, size_t n);
#endif
