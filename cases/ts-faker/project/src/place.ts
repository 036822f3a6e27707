import { faker } from '@faker-js/faker';

faker.setLocale('de');

/** Where a stand's fruit grew. */
export interface Place {
  street: string;
  code: string;
  country: string;
  north: string;
  east: string;
}

/** A place that was never there. */
export function place(): Place {
  return {
    street: faker.address.streetAddress(),
    code: faker.address.zipCode(),
    country: faker.address.country(),
    north: faker.address.latitude(),
    east: faker.address.longitude(),
  };
}

/** Speaks another language for a while. */
export function speaking<T>(locale: 'de' | 'fr', work: () => T): T {
  const before = faker.locale;
  faker.setLocale(locale);
  try {
    return work();
  } finally {
    faker.setLocale(before);
  }
}
