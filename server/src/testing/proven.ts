import { type Body, KeptAnswers, packed, type StampedView } from '../http/kept.ts';

/** Makes every answer anew that is given again, and notes those that are others by now: all tests ask through it. */
export class ProvenAnswers extends KeptAnswers {
  readonly untrue: string[] = [];

  protected override async find(address: string, stamp: string, view: StampedView): Promise<Body> {
    const given = await super.find(address, stamp, view);
    const anew = await packed(await view.make());
    // What changed in between is told by another stamp.
    if (!given.bytes.equals(anew.bytes) && (await view.stamp()) === stamp) this.untrue.push(address);
    return given;
  }
}
