import { useContext, useEffect, useRef } from 'react';
import { UNSAFE_DataRouterContext as RouterContext, useLocation, useSearchParams } from 'react-router';
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
  const { pathname } = useLocation();
  const router = useContext(RouterContext)?.router;
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
    const timer = setTimeout(() => {
      // Who is on the way to another screen, which may still have to be fetched, would be called back. This page may not
      // have been drawn since: only the router itself knows.
      const isStaying = router?.state.navigation.state === 'idle' && router.state.location.pathname === pathname;
      if (isStaying) setParams(new URLSearchParams(address), { replace: true });
    }, settleMs);
    return () => clearTimeout(timer);
  }, [address, params, pathname, router, dispatch, setParams]);
}
