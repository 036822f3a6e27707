import { faker } from '@faker-js/faker';

/** What stands on the board above a stand. */
export interface Board {
  motto: string;
  line: string;
  mark: string;
  picture: string;
  weight: number;
}

/** A board that was never there. */
export function board(): Board {
  return {
    motto: faker.company.bs(),
    line: faker.random.words(3),
    mark: faker.random.alphaNumeric(5),
    picture: faker.image.food(200, 100),
    weight: faker.datatype.float({ min: 1, max: 20, precision: 0.1 }),
  };
}

/** One word for the flag. */
export function flag(): string {
  return faker.random.word();
}

/** The picture of the market. */
export function picture(): string {
  return faker.image.imageUrl(640, 480, 'market');
}

/** The words of a day, as many as there are stands. */
export function mottos(stands: number): string[] {
  return Array.from({ length: stands }, () => `${faker.company.bsAdjective()} ${faker.company.bsNoun()}`);
}

const weights: number = 'heavy';
