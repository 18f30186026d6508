import { bridge } from '@/bridge/serve';

export const dynamic = 'force-dynamic';
export {
  bridge as DELETE,
  bridge as GET,
  bridge as HEAD,
  bridge as OPTIONS,
  bridge as PATCH,
  bridge as POST,
  bridge as PUT,
};
