'use client';

import { App } from 'antd';
import { useEffect } from 'react';
import { cutText } from '@/core/cut-text';
import { msg } from './messages';
import styles from './shell.module.css';

type Field = HTMLInputElement | HTMLTextAreaElement;
const isField = (at: EventTarget | null): at is Field => at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement;

/** What of a pasted text the browser leaves out of a field that takes so many characters; '' where all of it fits. */
function leftOut(field: Field, pasted: string): string {
  if (field.maxLength < 0 || field.readOnly || field.disabled) return '';
  const text = pasted.replace(/\r\n?/g, '\n');
  const replaced = (field.selectionEnd ?? 0) - (field.selectionStart ?? 0);
  return text.slice(Math.max(0, field.maxLength - (field.value.length - replaced))).trim();
}

/** So much of it is shown; the whole is still where it was copied from. */
const SHOWN = 400;

/** Says what of a pasted or dropped text did not fit its field: the browser cuts it off without a word. Stands once in every page. */
export function CutOff() {
  const { notification } = App.useApp();
  useEffect(() => {
    const look = (at: EventTarget | null, data: DataTransfer | null): void => {
      const rest = isField(at) ? leftOut(at, data?.getData('text/plain') ?? '') : '';
      if (rest === '') return;
      const most = (at as Field).maxLength;
      notification.warning({
        key: 'cut off',
        title: msg.tooLongForItsField,
        description: `It takes ${most} characters; ${rest.length} more ${rest.length === 1 ? 'was' : 'were'} left out: “${rest.length > SHOWN ? `${cutText(rest, SHOWN)} …` : rest}”.`,
        duration: false,
        placement: 'bottomRight',
        className: styles['notice']!,
      });
    };
    const pasted = (e: ClipboardEvent): void => look(e.target, e.clipboardData);
    const dropped = (e: DragEvent): void => look(e.target, e.dataTransfer);
    document.addEventListener('paste', pasted);
    document.addEventListener('drop', dropped);
    return () => {
      document.removeEventListener('paste', pasted);
      document.removeEventListener('drop', dropped);
    };
  }, [notification]);
  return null;
}
