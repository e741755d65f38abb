'use client';

import { Alert, Button, Form, Input, Select } from 'antd';
import { useState } from 'react';
import type { OwnFact, ShopRule } from '@/core/documents/shop-rules';
import { OWN_FACTS } from '@/core/documents/kinds';
import { RULE_GROUPS } from '@/core/documents/kinds';
import { formatQuantity } from '@/core/units/quantity';
import { issueText } from '@/core/documents/issue-text';
import { FormQuantity } from '@/ui/form/form-quantity';
import { zodRule } from '@/ui/form/zod-rule';
import { send } from '@/ui/post';
import type { Checks } from '@/ui/checks';
import { usePrefs } from '@/ui/theme/prefs';
import { useUndo } from '@/ui/undo';
import { uuid } from '@/ui/uuid';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

type Fields = Omit<ShopRule, 'id'>;
const FRESH: Fields = { group: 'clearance', title: '', fact: 'cover.left_m', is: '>=', than: 0.02, reason: '', cure: '' };

const schemaOf = (key: keyof Fields) => (checks: Checks) => checks.shopRuleDoc.shape[key];

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
  const undo = useUndo();
  const [form] = Form.useForm<Fields>();
  const [trouble, setTrouble] = useState<string | null>(null);
  /** Changes the shop's list as it is now: another window or person may have changed it since this one was opened. */
  const change = async (edit: (now: readonly ShopRule[]) => readonly ShopRule[]): Promise<boolean> => {
    try {
      const now = await send<ShopRule[]>('GET', '/api/shop/rules');
      onSaved(await send<ShopRule[]>('PUT', '/api/shop/rules', edit(now)));
      setTrouble(null);
      return true;
    } catch (error) {
      setTrouble((error as Error).message);
      return false;
    }
  };
  const add = async (fields: Fields): Promise<void> => {
    if (await change((now) => [...now, { ...fields, id: `own-${uuid().slice(0, 8)}` }])) form.resetFields();
  };
  const remove = async (rule: ShopRule): Promise<void> => {
    const without = (now: readonly ShopRule[]) => now.filter((x) => x.id !== rule.id);
    if (await change(without)) undo(`“${rule.title}” is no longer checked.`, () => change((now) => [...without(now), rule]));
  };
  const text = (name: 'title' | 'reason' | 'cure', label: string, placeholder: string) => (
    <Form.Item name={name} label={label} required={name !== 'cure'} rules={[zodRule(schemaOf(name))]} validateTrigger="onSubmit">
      <Input placeholder={placeholder} />
    </Form.Item>
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
                  <Button size="small" type="text" aria-label={`Remove ${r.title}`} onClick={() => void remove(r)}>
                    {msg.remove}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Form<Fields>
        form={form}
        name="own-check"
        layout="vertical"
        initialValues={FRESH}
        scrollToFirstError={{ focus: true }}
        onFinish={(fields) => void add(fields)}
      >
        {text('title', 'Check', 'strut brace')}
        <Form.Item name="group" label={msg.group}>
          <Select options={RULE_GROUPS.map((value) => ({ value, label: value }))} />
        </Form.Item>
        <Form.Item name="fact" label={msg.whatIsLookedAt}>
          <Select<OwnFact> options={Object.entries(OWN_FACTS).map(([value, label]) => ({ value: value as OwnFact, label }))} />
        </Form.Item>
        <Form.Item name="is" label={msg.mustBe}>
          <Select
            options={[
              { value: '>=', label: msg.atLeast },
              { value: '<=', label: msg.atMost },
            ]}
          />
        </Form.Item>
        <Form.Item
          name="than"
          label={msg.figure}
          required
          rules={[zodRule(schemaOf('than'), (issue) => issueText(issue, 'bore', pack))]}
          validateTrigger="onSubmit"
        >
          <FormQuantity label={msg.figure} measure="bore" />
        </Form.Item>
        {text('reason', 'Reason', 'the brace comes down when the engine rocks')}
        {text('cure', 'Cure', 'a spacer under the brace; empty: nothing cures it')}
        {trouble && <Alert type="error" title={trouble} style={{ marginBottom: 12 }} />}
        <Button type="primary" htmlType="submit">
          {msg.addTheCheck}
        </Button>
      </Form>
    </Dialog>
  );
}
