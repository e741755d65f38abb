'use client';

import { useEffect } from 'react';
import { EARLY, type EarlyFields } from './script';

type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;
type Early = { readonly fields: EarlyFields; readonly end: () => void };

/** Sets a value past the record React keeps of it, which would otherwise find no change in the event that follows. */
function put(field: Field, value: string): void {
  const kind =
    field instanceof HTMLTextAreaElement ? HTMLTextAreaElement : field instanceof HTMLSelectElement ? HTMLSelectElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(kind.prototype, 'value')!.set!.call(field, value);
}

function replay(field: Field, was: string | boolean): void {
  if (!(field instanceof HTMLInputElement)) {
    // A list keeps no record of its value; a text does, and held the typed text from the moment it was found.
    if (field instanceof HTMLTextAreaElement) field.value = field.defaultValue;
    put(field, String(was));
    field.dispatchEvent(new Event(field instanceof HTMLSelectElement ? 'change' : 'input', { bubbles: true }));
  } else if (field.type === 'checkbox' || field.type === 'radio') {
    field.checked = !was;
    field.click();
  } else if (field.type === 'file') {
    if (field.files?.length) field.dispatchEvent(new Event('change', { bubbles: true }));
  } else {
    field.value = field.defaultValue;
    put(field, String(was));
    field.dispatchEvent(new Event('input', { bubbles: true }));
  }
}

/**
 * Does again, now that the page listens, what somebody did to its fields while it did not: text typed, boxes ticked, files
 * chosen. Without it a field would show what the rest of the page knows nothing of.
 */
function replayEarly(): void {
  const early = (window as unknown as Record<string, Early | undefined>)[EARLY];
  if (!early) return;
  early.end();
  const fields = [...early.fields];
  early.fields.clear();
  for (const [field, was] of fields) if ((field as Field).isConnected) replay(field as Field, was);
}

/** Stands once in every page. */
export function Early() {
  useEffect(replayEarly, []);
  return null;
}
