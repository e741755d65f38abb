'use client';

import { App, Button, Form, Input, Select } from 'antd';
import { useEffect, useState } from 'react';
import { Heading, StopPage } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { send } from '@/ui/post';
import { DataTable } from '@/ui/table/data-table';
import { z } from 'zod';
import { zodRule } from '@/ui/form/zod-rule';

interface Key {
  readonly id: string;
  readonly name: string;
  readonly madeAt: string;
  readonly usedAt: string | null;
  readonly scope: 'read' | 'write';
  /** The one job it opens; null: all. */
  readonly jobId: string | null;
}

/** What a key may do, in the list of them. */
const mayDo = (key: Key): string => `${key.scope === 'read' ? 'reads only' : 'writes'}${key.jobId === null ? '' : ', one job'}`;

interface Described {
  readonly method: string;
  readonly path: string;
  readonly summary: string;
  readonly writes: boolean;
}

interface KeyFields {
  readonly name: string;
  readonly scope: Key['scope'];
  /** Empty: all jobs and the shelf. */
  readonly jobId: string;
}
const FRESH_KEY: KeyFields = { name: '', scope: 'write', jobId: '' };
const keyName = z.string().trim().min(1, 'Give the key a name: what will use it?').max(60);

/** Keys of the HTTP API: what it can do, and who may write through it. */
export function KeysRoom({ keys: keys0, operations }: { keys: readonly Key[]; operations: readonly Described[] }) {
  const { message, modal } = App.useApp();
  const { dates } = usePrefs();
  const [keys, setKeys] = useState(keys0);
  const [form] = Form.useForm<KeyFields>();
  const [jobs, setJobs] = useState<readonly { id: string; name: string }[]>([]);
  useEffect(() => {
    let current = true;
    // Without the list a key for all jobs can still be made.
    fetch('/api/v1/jobs?limit=500')
      .then((r) => r.json() as Promise<{ items?: { id: string; name: string }[] }>)
      .then((page) => current && setJobs(page.items ?? []))
      .catch(() => {});
    return () => {
      current = false;
    };
  }, []);
  const [token, setToken] = useState<string | null>(null);
  const make = ({ name, scope, jobId }: KeyFields): void => {
    send<{ key: Key; token: string }>('POST', '/api/keys', { name: name.trim(), scope, jobId: jobId === '' ? null : jobId })
      .then((made) => {
        setKeys((list) => [made.key, ...list]);
        setToken(made.token);
        form.resetFields();
      })
      .catch((e: Error) => form.setFields([{ name: 'name', errors: [e.message] }]));
  };
  const revoke = (key: Key): void => {
    modal.confirm({
      title: `Revoke the key “${key.name}”?`,
      content: 'Whatever uses it can read but no longer write.',
      okText: 'Revoke it',
      onOk: async () => {
        const response = await fetch(`/api/keys/${key.id}`, { method: 'DELETE' }).catch(() => null);
        if (!response?.ok) return void message.error('The server is away; the key still opens.');
        setKeys((await response.json()) as Key[]);
      },
    });
  };
  return (
    <StopPage
      answer={
        keys.length === 0
          ? 'Nothing else can write here: no key has been made.'
          : `${keys.length} ${keys.length === 1 ? 'key opens' : 'keys open'} writing through the API.`
      }
      reason="The API reads without a key, from this machine only. Writing, such as a dyno that sends its files by itself, needs one."
      aside={
        <>
          <Heading>A new key</Heading>
          <Form<KeyFields> form={form} layout="vertical" initialValues={FRESH_KEY} onFinish={make}>
            <Form.Item name="name" label="What will use the key" required rules={[zodRule(keyName)]} validateTrigger="onSubmit">
              <Input placeholder="the dyno’s computer" maxLength={60} />
            </Form.Item>
            <Form.Item name="scope" label="What the key may do">
              <Select
                options={[
                  { value: 'write' as const, label: 'read and write' },
                  { value: 'read' as const, label: 'read only' },
                ]}
              />
            </Form.Item>
            <Form.Item name="jobId" label="Which jobs the key opens">
              <Select
                showSearch={{ optionFilterProp: 'label' }}
                options={[{ value: '', label: 'all jobs and the shelf' }, ...jobs.map((j) => ({ value: j.id, label: j.name }))]}
              />
            </Form.Item>
            <Button type="primary" htmlType="submit">
              Make a key
            </Button>
          </Form>
          {token && (
            <div role="status" style={{ marginTop: 12 }}>
              <p>Copy it now: it is shown this once.</p>
              <Input.TextArea aria-label="The new key" readOnly autoSize value={token} onFocus={(e) => e.currentTarget.select()} />
            </div>
          )}
        </>
      }
    >
      <DataTable
        name="API keys"
        rows={keys}
        rowKey={(k) => k.id}
        empty="No key yet: make one on the right for the program that is to write here."
        columns={[
          { key: 'name', title: 'used by', text: (k) => k.name, by: (k) => k.name },
          { key: 'may', title: 'may', text: mayDo, filter: mayDo },
          { key: 'made', title: 'made', text: (k) => dates.day(k.madeAt), by: (k) => k.madeAt },
          { key: 'used', title: 'last used', text: (k) => (k.usedAt === null ? 'never' : dates.day(k.usedAt)), by: (k) => k.usedAt },
          {
            key: 'tools',
            title: '',
            text: () => '',
            tool: true,
            render: (k) => (
              <Button size="small" aria-label={`Revoke ${k.name}`} onClick={() => revoke(k)}>
                Revoke
              </Button>
            ),
          },
        ]}
      />
      <Heading
        more={
          <a href="/api/v1/openapi.json" target="_blank" rel="noreferrer">
            OpenAPI document
          </a>
        }
      >
        What the API does
      </Heading>
      <div className="wide-table" tabIndex={0}>
        <table className="plain">
          <tbody>
            {operations.map((o) => (
              <tr key={o.method + o.path}>
                <td style={{ whiteSpace: 'nowrap' }}>
                  <code>
                    {o.method.toUpperCase()} /api/v1{o.path}
                  </code>
                </td>
                <td>{o.summary}</td>
                <td>{o.writes ? 'key' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </StopPage>
  );
}
