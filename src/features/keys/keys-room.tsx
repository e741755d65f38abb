'use client';

import { App, Button, Form, Input, Select } from 'antd';
import { useEffect, useState } from 'react';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { send } from '@/ui/post';
import { DataTable } from '@/ui/table/data-table';
import { z } from 'zod';
import { zodRule } from '@/ui/form/zod-rule';
import { msg } from './messages';

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

/** A new key: what for, what it may do, which jobs it opens. It is shown once. */
function NewKey({ onMade }: { onMade: (key: Key) => void }) {
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
        onMade(made.key);
        setToken(made.token);
        form.resetFields();
      })
      .catch((e: Error) => form.setFields([{ name: 'name', errors: [e.message] }]));
  };
  return (
    <>
      <Form<KeyFields> form={form} layout="vertical" initialValues={FRESH_KEY} onFinish={make}>
        <Form.Item name="name" label={msg.whatWillUseTheKey} required rules={[zodRule(keyName)]} validateTrigger="onSubmit">
          <Input placeholder={msg.theDynosComputer} maxLength={60} />
        </Form.Item>
        <Form.Item name="scope" label={msg.whatTheKeyMayDo}>
          <Select
            options={[
              { value: 'write' as const, label: msg.readAndWrite },
              { value: 'read' as const, label: msg.readOnly },
            ]}
          />
        </Form.Item>
        <Form.Item name="jobId" label={msg.whichJobsTheKeyOpens}>
          <Select
            showSearch={{ optionFilterProp: 'label' }}
            options={[{ value: '', label: msg.allJobsAndTheShelf }, ...jobs.map((j) => ({ value: j.id, label: j.name }))]}
          />
        </Form.Item>
        <Button type="primary" htmlType="submit">
          {msg.makeAKey}
        </Button>
      </Form>
      {token && (
        <div role="status" style={{ marginTop: 12 }}>
          <p>{msg.copyItNowItIsShown}</p>
          <Input.TextArea aria-label={msg.theNewKey} readOnly autoSize value={token} onFocus={(e) => e.currentTarget.select()} />
        </div>
      )}
    </>
  );
}

function WhatItDoes({ operations }: { operations: readonly Described[] }) {
  return (
    <>
      <Heading
        more={
          <a href="/api/v1/openapi.json" target="_blank" rel="noreferrer">
            {msg.openapiDocument}
          </a>
        }
      >
        {msg.whatTheApiDoes}
      </Heading>
      <div className="wide-table" tabIndex={0}>
        <table className="plain">
          <tbody>
            {operations.map((o) => (
              <tr key={o.method + o.path}>
                <td style={{ whiteSpace: 'nowrap' }}>
                  <code>
                    {o.method.toUpperCase()} {msg.apiV1}
                    {o.path}
                  </code>
                </td>
                <td>{o.summary}</td>
                <td>{o.writes ? 'key' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** Keys of the HTTP API: what it can do, and who may write through it. */
export function KeysRoom({ keys: keys0, operations }: { keys: readonly Key[]; operations: readonly Described[] }) {
  const { message, modal } = App.useApp();
  const { dates } = usePrefs();
  const [keys, setKeys] = useState(keys0);
  const revoke = (key: Key): void => {
    modal.confirm({
      title: `Revoke the key “${key.name}”?`,
      content: msg.whateverUsesItCanReadBut,
      okText: msg.revokeIt,
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
      reason={msg.theApiReadsWithoutAKey}
      aside={
        <>
          <Heading>{msg.aNewKey}</Heading>
          <NewKey onMade={(key) => setKeys((list) => [key, ...list])} />
        </>
      }
    >
      <DataTable
        name="API keys"
        rows={keys}
        rowKey={(k) => k.id}
        empty={msg.noKeyYetMakeOneOn}
        columns={[
          { key: 'name', title: msg.usedBy, text: (k) => k.name, by: (k) => k.name },
          { key: 'may', title: msg.may, text: mayDo, filter: mayDo },
          { key: 'made', title: msg.made, text: (k) => dates.day(k.madeAt), by: (k) => k.madeAt },
          { key: 'used', title: msg.lastUsed, text: (k) => (k.usedAt === null ? 'never' : dates.day(k.usedAt)), by: (k) => k.usedAt },
          {
            key: 'tools',
            title: '',
            text: () => '',
            tool: true,
            render: (k) => (
              <Button size="small" aria-label={`Revoke ${k.name}`} onClick={() => revoke(k)}>
                {msg.revoke}
              </Button>
            ),
          },
        ]}
      />
      <WhatItDoes operations={operations} />
    </StopPage>
  );
}
