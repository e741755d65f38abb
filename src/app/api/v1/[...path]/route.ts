import { importNow } from '@/server/import-upload';
import { dispatcher } from '@/server/api/dispatch';

const all = dispatcher(importNow);

export { all as GET, all as POST, all as PUT, all as PATCH, all as DELETE, all as HEAD, all as OPTIONS };
