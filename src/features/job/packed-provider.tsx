'use client';

import type { ComponentProps, ReactNode } from 'react';
import type { Packed } from '@/server/packed';
import { useUnpacked } from '@/ui/unpacked';
import { JobProvider } from './provider';

export type JobAsSent = Omit<ComponentProps<typeof JobProvider>, 'children'>;

/** The open job as the server sends it. */
export const PackedJobProvider = ({ sent, children }: { sent: Packed<JobAsSent>; children: ReactNode }) => (
  <JobProvider {...useUnpacked(sent)}>{children}</JobProvider>
);
