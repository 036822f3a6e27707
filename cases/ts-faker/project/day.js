import { faker } from '@faker-js/faker';

faker.seed(12);
console.log('keeper of the day:', faker.internet.userName());
console.log('picture of the day:', faker.internet.avatar().length > 0);
console.log('colour of the day:', faker.internet.color().length);
