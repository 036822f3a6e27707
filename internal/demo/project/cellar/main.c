#include <stdio.h>
#include "cellar.h"

int main(void)
{
    struct store stores[STORES];
    int n = probe_all(stores);
    for (int i = 0; i < n; i++)
        print_store(&stores[i]);
    return alarm_level;
}
