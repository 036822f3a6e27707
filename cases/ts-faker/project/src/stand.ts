import { faker } from '@faker-js/faker';

/** A stand on the market. */
export interface Stand {
  id: string;
  keeper: string;
  town: string;
  fruit: string[];
  price: string;
  opened: Date;
}

/** A stand that was never there. */
export function stand(): Stand {
  return {
    id: faker.datatype.uuid(),
    keeper: faker.name.fullName(),
    town: faker.address.city(),
    fruit: faker.helpers.arrayElements(['apple', 'pear', 'plum']),
    price: faker.commerce.price(1, 9),
    opened: faker.date.past(3),
  };
}

/** A day of the market, between two others. */
export function day(from: Date, to: Date): Date {
  return faker.date.between(from, to);
}

/** How many crates a stand brought. */
export function crates(most: number): number {
  return faker.datatype.number({ min: 1, max: most });
}
