#include "cellar.h"

const char *state_name(enum coldchain_state s)
{
    switch (s) {
    case COLDCHAIN_OK:
        return "cold";
    case COLDCHAIN_WARM:
        return "warm";
    case COLDCHAIN_LOST:
        return "lost";
    }
    return "?";
}

int too_warm(double celsius) { return coldchain_judge(celsius) == COLDCHAIN_WARM; }
