#include "cellar.h"

double mean(values, n)
    const double *values;
    int n;
{
    double sum = 0;
    for (int i = 0; i < n; i++)
        sum += values[i];
    return n ? sum / n : 0;
}

long widest(const double *values, int n)
{
    double most = 0;
    for (int i = 0; i < n; i++)
        if (values[i] > most)
            most = values[i];
    return round_up(most);
}
