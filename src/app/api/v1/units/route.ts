import { z } from 'zod';
import { storedUnit } from '@/server/api/operations';
import { answer, apiRoute } from '@/server/api/route';
import { db } from '@/server/db/client';
import { listUnits } from '@/server/units';

export const GET = apiRoute(false, async () => answer(z.array(storedUnit), await listUnits(db())));
