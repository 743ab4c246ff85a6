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
  const isRead = useRef(false);
  useEffect(() => {
    if (isRead.current) return;
    isRead.current = true;
    if ([...params.keys()].length > 0) dispatch(restore(fromAddress(params)));
  }, [dispatch, params]);
  const address = addressOf(selection).toString();
  const isFirst = useRef(true);
  useEffect(() => {
    const isOpening = isFirst.current && [...params.keys()].length > 0;
    isFirst.current = false;
    if (!isOpening && address !== params.toString()) setParams(new URLSearchParams(address), { replace: true });
    // The address follows the selection, not the other way round.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [address]);
}
