import { bridge } from '@/bridge/serve';

export const dynamic = 'force-dynamic';
export { bridge as DELETE, bridge as GET, bridge as POST, bridge as PUT };
