/** What a plan will write against what is free less headroom, in bytes. Headroom is a share of the whole drive. */
export type Room = { readonly freeInBytes: number; readonly totalInBytes: number; readonly headroomShare: number };

export const defaultHeadroomShare = 0.2;

export function roomAfter(
  plannedInBytes: number,
  room: Room,
): { fits: boolean; usableInBytes: number; leftInBytes: number } {
  const usableInBytes = Math.max(0, room.freeInBytes - Math.ceil(room.totalInBytes * room.headroomShare));
  return { fits: plannedInBytes <= usableInBytes, usableInBytes, leftInBytes: usableInBytes - plannedInBytes };
}
