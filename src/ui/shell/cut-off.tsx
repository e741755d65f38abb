'use client';

import { App } from 'antd';
import { useEffect } from 'react';
import { cutText } from '@/core/cut-text';
import { msg } from './messages';
import styles from './shell.module.css';

type Field = HTMLInputElement | HTMLTextAreaElement;
const isField = (at: EventTarget | null): at is Field => at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement;

/** What of a text the browser leaves out of a field that takes so many characters, where it stands for so many of what is there; '' where all of it fits. */
function leftOut(field: Field, pasted: string, replaced: number): string {
  if (field.maxLength < 0 || field.readOnly || field.disabled) return '';
  const text = pasted.replace(/\r\n?/g, '\n');
  return text.slice(Math.max(0, field.maxLength - (field.value.length - replaced))).trim();
}

/** So much of it is shown; the whole is still where it was copied from. */
const SHOWN = 400;

/** Says what of a pasted or dropped text did not fit its field: the browser cuts it off without a word. Stands once in every page. */
export function CutOff() {
  const { notification } = App.useApp();
  useEffect(() => {
    const look = (at: EventTarget | null, data: DataTransfer | null, replaced: (field: Field) => number): void => {
      const rest = isField(at) ? leftOut(at, data?.getData('text/plain') ?? '', replaced(at)) : '';
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
    const pasted = (e: ClipboardEvent): void =>
      look(e.target, e.clipboardData, (field) => (field.selectionEnd ?? 0) - (field.selectionStart ?? 0));
    let dragged: EventTarget | null = null;
    const taken = (e: DragEvent): void => void (dragged = e.target);
    // What is moved about within a field takes no more room there than it had; what is dropped replaces nothing.
    const dropped = (e: DragEvent): void => {
      if (e.target !== dragged) look(e.target, e.dataTransfer, () => 0);
      dragged = null;
    };
    document.addEventListener('paste', pasted);
    document.addEventListener('dragstart', taken);
    document.addEventListener('drop', dropped);
    return () => {
      document.removeEventListener('paste', pasted);
      document.removeEventListener('dragstart', taken);
      document.removeEventListener('drop', dropped);
    };
  }, [notification]);
  return null;
}
