/** Carries out what it is given one after the other, whatever came of the one before. */
export function turns(): <T>(act: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (act) => {
    const mine = last.then(act, act);
    last = mine;
    return mine;
  };
}
