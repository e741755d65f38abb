'use client';

import { App } from 'antd';
import { useCallback } from 'react';

/** Runs what may be refused: the refusal becomes a message, and so does what it resolves with when that is a sentence. */
export function useReported(): (work: () => Promise<unknown>) => Promise<void> {
  const { message } = App.useApp();
  return useCallback(
    async (work) => {
      try {
        const done = await work();
        if (typeof done === 'string') message.success(done);
      } catch (error) {
        message.error(error instanceof Error ? error.message : 'That did not work.');
      }
    },
    [message],
  );
}
