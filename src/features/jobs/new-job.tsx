'use client';

import { Form, Input, Select } from 'antd';
import { useState } from 'react';
import { ENGINE_PRESETS } from '@/core/job/presets';
import { zodRule } from '@/ui/form/zod-rule';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const PRESETS = Object.keys(ENGINE_PRESETS).map((value) => ({ value, label: value }));

interface Fields {
  readonly name: string;
  readonly preset: string;
}
const START: Fields = { name: '', preset: PRESETS[1]!.value };

/** A name and the nearest engine: enough to have an answer on the next page. */
export function NewJob({ onClose, onCreate }: { onClose: () => void; onCreate: (name: string, preset: string) => Promise<void> }) {
  const [form] = Form.useForm<Fields>();
  const [busy, setBusy] = useState(false);
  const create = async ({ name, preset }: Fields): Promise<void> => {
    setBusy(true);
    try {
      await onCreate(name.trim(), preset);
    } catch (error) {
      const said = error instanceof Error && error.message ? error.message : 'The server is away. Try again.';
      form.setFields([{ name: 'name', errors: [said] }]);
      setBusy(false);
    }
  };
  return (
    <Dialog open title={msg.newJob} okText={msg.create} onOk={form.submit} confirmLoading={busy} onCancel={onClose} width={460}>
      <Form<Fields>
        form={form}
        layout="vertical"
        initialValues={START}
        scrollToFirstError={{ focus: true }}
        onFinish={(fields) => void create(fields)}
      >
        <Form.Item name="name" label={msg.name} required rules={[zodRule((checks) => checks.jobDoc.shape.name)]} validateTrigger="onSubmit">
          <Input autoFocus maxLength={80} placeholder={msg.sparrowSaloon} onPressEnter={form.submit} />
        </Form.Item>
        <Form.Item name="preset" label={msg.nearestEngine} extra={msg.aStartOnlyEverythingItFills}>
          <Select options={PRESETS} />
        </Form.Item>
      </Form>
    </Dialog>
  );
}
