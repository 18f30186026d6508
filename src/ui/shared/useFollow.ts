import { useRouter } from 'next/navigation';
import { isLeaving } from './leaving';

/**
 * Leads to where something that was begun goes on, unless the player has gone elsewhere meanwhile: nobody is called
 * back from there.
 *
 * @returns to be called when it begins, with the address; what that returns is called when it is done
 */
export function useFollow(): (to: string) => () => void {
  const router = useRouter();
  return (to) => {
    const from = window.location.pathname;
    return () => {
      if (window.location.pathname === from && !isLeaving()) router.push(to);
    };
  };
}
