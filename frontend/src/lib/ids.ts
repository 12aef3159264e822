/** How names of meetings and copies are written and read: as in `notchcore/ids.py`, and nowhere else here. */

/** The two parts that meet. */
export const partsOf = (meeting: string) => meeting.split('#')[0]!.split('+');

/** One of the equal parts of a job. */
export const copyId = (p: { part: string; copy: number }) => `${p.part}.${p.copy}`;
