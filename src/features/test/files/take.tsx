'use client';

import { App, Button, Upload } from 'antd';
import { useState } from 'react';
import { Heading } from '@/ui/answer/stop-page';
import { ImportList, type useImports } from './imports';
import styles from '../test.module.css';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Loaded when it is asked for: most runs come as files. */
const FromPicture = later(() => import('../picture/from-picture').then((m) => m.FromPicture));

const FILES = '.csv,.txt,.tsv,.tab,.log,.dat,.asc,.xlsx,.xls,.ods,.zip,.gz,.json,.ndjson,.html,.htm,.md,.xml,.gpx,.nmea,.mf4';

/** Files chosen or pasted, and how their reading comes along. */
export function TakeFiles({ imports, title }: { imports: ReturnType<typeof useImports>; title: string }) {
  const { message } = App.useApp();
  const [picture, setPicture] = useState(false);
  const paste = async (): Promise<void> => {
    const text = await navigator.clipboard.readText().catch(() => null);
    if (text === null) return void message.info('The browser does not let this page read the clipboard: press Ctrl+V on the page instead.');
    if (text.trim() === '') return void message.info('The clipboard holds no text.');
    imports.paste(text);
  };
  return (
    <>
      <Heading
        more={
          <span className={styles['takers']}>
            <Button size="small" onClick={() => void paste()}>
              {msg.paste}
            </Button>
            <Button size="small" onClick={() => setPicture(true)}>
              {msg.fromAPicture}
            </Button>
            <Upload
              multiple
              accept={FILES}
              showUploadList={false}
              data-testid="files"
              beforeUpload={(file, all) => {
                // Once for all that were chosen together: their order is the order they were chosen in.
                if (file === all[0]) imports.take(all);
                return false;
              }}
            >
              <Button size="small">{msg.chooseFiles}</Button>
            </Upload>
          </span>
        }
      >
        {title}
      </Heading>
      <ImportList imports={imports} />
      {(picture || imports.picture) && (
        <FromPicture
          file={imports.picture ?? undefined}
          onTake={(file) => imports.take([file])}
          onClose={() => {
            setPicture(false);
            imports.closePicture();
          }}
        />
      )}
    </>
  );
}
