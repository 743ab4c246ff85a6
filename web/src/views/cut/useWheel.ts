import { useEffect, useRef, type RefObject } from 'react';
import { moved, zoomed, type Sight } from './sight.ts';

/**
 * The wheel moves along what is in sight, and with Ctrl or ⌘ nearer and farther. It is listened to by hand, since a page may
 * not keep it from scrolling otherwise.
 */
export function useWheel(
  element: RefObject<HTMLElement | null>,
  sight: Sight,
  whole: Sight,
  onSight: (sight: Sight) => void,
): void {
  const latest = useRef({ sight, whole, onSight });
  useEffect(() => {
    latest.current = { sight, whole, onSight };
  });
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const onWheel = (wheel: WheelEvent) => {
      const now = latest.current;
      const box = target.getBoundingClientRect();
      const perDot = (now.sight.to - now.sight.from) / box.width;
      wheel.preventDefault();
      if (wheel.ctrlKey || wheel.metaKey) {
        const at = now.sight.from + (wheel.clientX - box.left) * perDot;
        const next = zoomed(now.sight, Math.exp(-wheel.deltaY / 300), at, now.whole);
        latest.current = { ...now, sight: next };
        return now.onSight(next);
      }
      const by = Math.abs(wheel.deltaX) > Math.abs(wheel.deltaY) ? wheel.deltaX : wheel.deltaY;
      const next = moved(now.sight, by * perDot, now.whole);
      latest.current = { ...now, sight: next };
      now.onSight(next);
    };
    target.addEventListener('wheel', onWheel, { passive: false });
    return () => target.removeEventListener('wheel', onWheel);
  }, [element]);
}
