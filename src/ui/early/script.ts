/** Where the page's own first script keeps what it saw; read by `replayEarly`. */
export const EARLY = 'vannerEarly';

/** What somebody did to a field before the page listened: its value, or for a box whether it is on. */
export type EarlyFields = Map<EventTarget, string | boolean>;

/**
 * Runs in the page's head, before anything is drawn: notes which fields somebody used while the page does not listen yet, and
 * keeps a file that is let go of there from replacing the page.
 */
export const EARLY_SCRIPT = `(function () {
  var fields = new Map();
  function note(e) {
    var t = e.target;
    if ('value' in t) fields.set(t, t.type === 'checkbox' || t.type === 'radio' ? t.checked : t.value);
  }
  function refuse(e) {
    e.preventDefault();
    e.dataTransfer.dropEffect = 'none';
  }
  var on = { input: note, change: note, dragover: refuse, drop: refuse };
  for (var kind in on) window.addEventListener(kind, on[kind], true);
  window.${EARLY} = {
    fields: fields,
    end: function () {
      for (var kind in on) window.removeEventListener(kind, on[kind], true);
    },
  };
})();`;
