import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { addressOf, fromAddress, restore } from '../../session/selection.ts';

const settleMs = 250;

/**
 * Filter and selection stand in the address, so that a reload, a bookmark and a colleague see the same rows. What
 * the address says when the screen opens holds; from then on it follows what is chosen.
 */
export function useAddress(): void {
  const [params, setParams] = useSearchParams();
  const selection = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  const address = addressOf(selection).toString();
  const isOpening = useRef(true);
  useEffect(() => {
    const stated = params.toString();
    const isFirst = isOpening.current;
    isOpening.current = false;
    if (isFirst && stated !== '') {
      dispatch(restore(fromAddress(params)));
      return;
    }
    if (address === stated) return;
    // Once the hand rests: the whole page is drawn for another address, and typing must not wait for that.
    const timer = setTimeout(() => setParams(new URLSearchParams(address), { replace: true }), settleMs);
    return () => clearTimeout(timer);
  }, [address, params, dispatch, setParams]);
}
