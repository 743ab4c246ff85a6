import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { addressOf, fromAddress, restore } from '../../session/selection.ts';

/**
 * Filter, order and selection stand in the address, so that a reload, a bookmark and a colleague see the same rows. What
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
    if (isOpening.current && stated !== '') dispatch(restore(fromAddress(params)));
    else if (address !== stated) setParams(new URLSearchParams(address), { replace: true });
    isOpening.current = false;
  }, [address, params, dispatch, setParams]);
}
