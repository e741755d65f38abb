'use client';

import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { issuesOf } from '@/core/documents/issue';
import type { OwnFact, ShopRule } from '@/core/documents/shop-rules';
import { OWN_FACTS } from '@/core/documents/kinds';
import { RULE_GROUPS, type RuleGroup } from '@/core/fit/rule';
import { formatQuantity } from '@/core/units/quantity';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { issueText } from '@/ui/field/issue-text';
import { send } from '@/ui/post';
import { loadChecks, useChecks } from '@/ui/checks';
import { usePrefs } from '@/ui/theme/prefs';
import { uuid } from '@/ui/uuid';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const FRESH: Omit<ShopRule, 'id'> = { group: 'clearance', title: '', fact: 'cover.left_m', is: '>=', than: 0.02, reason: '', cure: '' };

/** Checks the shop adds to the usual ones: one measured thing against one figure, with the reason and the cure. */
export function OwnRules({
  rules,
  onSaved,
  onClose,
}: {
  rules: readonly ShopRule[];
  onSaved: (rules: ShopRule[]) => void;
  onClose: () => void;
}) {
  const { pack } = usePrefs();
  const [draft, setDraft] = useState(FRESH);
  const [tried, setTried] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const whole = { ...draft, id: `own-${uuid().slice(0, 8)}` };
  const found = useChecks()?.shopRuleDoc.safeParse(whole).error;
  const issues = found && tried ? issuesOf(found) : [];
  const wrong = (path: keyof ShopRule): string | undefined => {
    const issue = issues.find((i) => i.path === path);
    return issue && issueText(issue, 'bore', pack);
  };
  const save = async (next: readonly ShopRule[]): Promise<boolean> => {
    try {
      onSaved(await send<ShopRule[]>('PUT', '/api/shop/rules', next));
      setTrouble(null);
      return true;
    } catch (error) {
      setTrouble((error as Error).message);
      return false;
    }
  };
  const add = async (): Promise<void> => {
    setTried(true);
    const checks = await loadChecks().catch(() => null);
    const parsed = checks?.shopRuleDoc.safeParse(whole);
    if (parsed?.error) return;
    if (await save([...rules, parsed?.data ?? (whole as ShopRule)])) {
      setDraft(FRESH);
      setTried(false);
    }
  };
  const text = (key: 'title' | 'reason' | 'cure', label: string, placeholder: string) => (
    <ControlRow label={label} wrong={wrong(key)}>
      <Input
        aria-label={label}
        value={draft[key]}
        placeholder={placeholder}
        onChange={(e) => setDraft({ ...draft, [key]: e.target.value })}
      />
    </ControlRow>
  );
  return (
    <Dialog open title={msg.checksOfOurOwn} footer={null} onCancel={onClose} width={560}>
      {rules.length > 0 && (
        <table className="plain">
          <tbody>
            {rules.map((r) => (
              <tr key={r.id}>
                <td>{r.title}</td>
                <td>
                  {OWN_FACTS[r.fact]} {r.is === '>=' ? 'at least' : 'at most'} {formatQuantity(r.than, 'bore', pack)}
                </td>
                <td>
                  <Button
                    size="small"
                    type="text"
                    aria-label={`Remove ${r.title}`}
                    onClick={() => void save(rules.filter((x) => x.id !== r.id))}
                  >
                    {msg.remove}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {text('title', 'Check', 'strut brace')}
      <ControlRow label={msg.group}>
        <Select<RuleGroup>
          aria-label={msg.group}
          style={{ width: '100%' }}
          value={draft.group}
          options={RULE_GROUPS.map((value) => ({ value, label: value }))}
          onChange={(group) => setDraft({ ...draft, group })}
        />
      </ControlRow>
      <ControlRow label={msg.whatIsLookedAt}>
        <Select<OwnFact>
          aria-label={msg.whatIsLookedAt}
          style={{ width: '100%' }}
          value={draft.fact}
          options={Object.entries(OWN_FACTS).map(([value, label]) => ({ value: value as OwnFact, label }))}
          onChange={(fact) => setDraft({ ...draft, fact })}
        />
      </ControlRow>
      <ControlRow label={msg.mustBe}>
        <Select
          aria-label={msg.mustBe}
          style={{ width: '100%' }}
          value={draft.is}
          options={[
            { value: '>=' as const, label: msg.atLeast },
            { value: '<=' as const, label: msg.atMost },
          ]}
          onChange={(is) => setDraft({ ...draft, is })}
        />
      </ControlRow>
      <FieldRow
        label={msg.figure}
        measure="bore"
        value={draft.than}
        wrong={wrong('than')}
        onChange={(than) => setDraft({ ...draft, than })}
      />
      {text('reason', 'Reason', 'the brace comes down when the engine rocks')}
      {text('cure', 'Cure', 'a spacer under the brace; empty: nothing cures it')}
      {trouble && (
        <p role="alert" style={{ color: 'var(--danger)' }}>
          {trouble}
        </p>
      )}
      <Button type="primary" style={{ marginTop: 12 }} onClick={() => void add()}>
        {msg.addTheCheck}
      </Button>
    </Dialog>
  );
}
