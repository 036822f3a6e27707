import { Bale, dry, grade, type Grade } from 'hopper';

/** A bale after a night in the kiln. */
export function overnight(bale: Bale): Bale {
  return dry(bale, 8);
}

/** A bale after an hour. */
export function hour(bale: Bale): Bale {
  return dry(bale, 1);
}

/** The grade after a night. */
export function morning(bale: Bale): Grade {
  return grade(overnight(bale));
}
