import { faker } from '@faker-js/faker';

/** Somebody who buys fruit. */
export interface Buyer {
  first: string;
  last: string;
  title: string;
  phone: string;
  account: string;
}

const seen = new Set<string>();

/** A buyer who was never there. */
export function buyer(): Buyer {
  const first = faker.name.firstName();
  return {
    first,
    last: faker.name.lastName(),
    title: faker.name.jobTitle(),
    phone: faker.phone.number('0## ### ###'),
    account: faker.finance.account(8),
  };
}

/** A buyer's name that was not given before. */
export function fresh(): string {
  const name = faker.helpers.unique(faker.name.firstName);
  seen.add(name);
  return name;
}

/** A number of a stand that was not given before. */
export function number(): number {
  return faker.helpers.unique(() => faker.datatype.number(999));
}

/** Where a buyer is called on market days. */
export function called(): string {
  return faker.phone.number('+00 ## ####');
}

/** The account of the market itself. */
export const market = faker.finance.account();
