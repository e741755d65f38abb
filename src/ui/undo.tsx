'use client';

import { App, Button } from 'antd';
import { useCallback } from 'react';
import { msg } from './messages';

/** How long a removal can be undone from its own notice, s; from the trash it can be for ever. */
const SHOWN_S = 8;

/** Says what was done, with a way back beside it: the one way in which every removal is told. */
export function useUndo(): (done: string, back: () => unknown) => void {
  const { message } = App.useApp();
  return useCallback(
    (done, back) => {
      const key = `undo ${done}`;
      void message.open({
        key,
        type: 'success',
        duration: SHOWN_S,
        content: (
          <>
            {done}{' '}
            <Button
              size="small"
              onClick={() => {
                message.destroy(key);
                back();
              }}
            >
              {msg.undo}
            </Button>
          </>
        ),
      });
    },
    [message],
  );
}
