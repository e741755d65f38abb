import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FakeEventSource } from '../../../test/event-source';
import { larkspur, renderJob, units } from '../../../test/render-job';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { jobFindings } from '@/core/verdict/findings';
import { InstallStop } from './install-stop';

beforeEach(() => {
  localStorage.clear();
  localStorage.setItem('vanner-who', 'Maud');
  FakeEventSource.opened = [];
  Object.assign(globalThis, { EventSource: FakeEventSource });
});

const pick = async (label: string, option: string): Promise<void> => {
  await userEvent.click(screen.getByRole('combobox', { name: label }));
  const found = await screen.findAllByText(option);
  await userEvent.click(found.at(-1)!);
};
const button = (text: string): HTMLElement => screen.getByText(text).closest('button')!;
const give = (...volts: number[]): void =>
  act(() => volts.forEach((a_V, i) => FakeEventSource.latest().give({ t_s: i / 5, a_V, b_V: 5 - a_V })));

describe('the voltmeter on the sensor', () => {
  it('is asked for this car’s unit, and its mean is taken as closed or as full', async () => {
    const doc = { ...larkspur, install: { ...larkspur.install, closed_V: null, full_V: null } };
    const { saves } = renderJob(<InstallStop />, { doc });
    await userEvent.click(button('Read the practice voltmeter'));
    expect(FakeEventSource.latest().url).toMatch(
      /^\/api\/stand-ins\/voltmeter\?closed_V=0\.5&full_V=4\.4&position=shut&case=sound&seed=1041$/,
    );
    give(0.54, 0.55, 0.56, 0.55, 0.55);
    expect(screen.getByLabelText('Volts')).toHaveTextContent('0.55 V simulated');
    await userEvent.click(button('Take it as closed'));
    expect(screen.getByLabelText('Closed now')).toHaveValue('0.55');
    await pick('Blade is', 'held full');
    expect(FakeEventSource.latest().url).toContain('position=full');
    give(4.4, 4.41, 4.4, 4.39, 4.4);
    await userEvent.click(button('Take it as full'));
    expect(screen.getByText(/Shut it reads 0\.03 V too much/)).toBeInTheDocument();
    await waitFor(() => expect(saves.at(-1)?.doc.install).toMatchObject({ closed_V: 0.55, full_V: 4.4 }));
  });

  it('a blade let go that comes to rest elsewhere each time does not shut by itself', async () => {
    renderJob(<InstallStop />);
    await pick('Blade is', 'opened, let go');
    await userEvent.click(button('Read the practice voltmeter'));
    give(4.4, 0.5, 0.5, 4.4, 0.51, 0.5, 4.4, 0.5, 0.51);
    expect(screen.queryByText(/does not shut by itself/)).toBeNull();
    give(4.4, 0.61, 0.6);
    expect(
      screen.getByText('Let go, it comes to rest 0.11 V apart: the blade does not shut by itself. The snap-shut check fails.'),
    ).toBeInTheDocument();
    expect(screen.queryByText(/Take it as/)).toBeNull();
  });

  it('of an electronic throttle both tracks are read and taken', async () => {
    const doc = {
      ...larkspur,
      car: { ...larkspur.car, controls: { ...larkspur.car.controls, kind: 'electronic-digital' as const } },
      install: { ...larkspur.install, closed_V: null, full_V: null },
    };
    renderJob(<InstallStop />, { doc });
    await userEvent.click(button('Read the practice voltmeter'));
    give(0.5, 0.5, 0.5, 0.5, 0.5);
    expect(screen.getByLabelText('Volts')).toHaveTextContent('0.50 V · 4.50 V');
    await userEvent.click(button('Take it as closed'));
    expect(screen.getByLabelText('Second track, closed')).toHaveValue('4.50');
    expect(screen.getByText('The two tracks add up to the supply.')).toBeInTheDocument();
  });
});

describe('the tachometer in the relearn', () => {
  let n = 0;
  const stamp = () => ({ id: `00000000-0000-4000-9000-${String((n += 1)).padStart(12, '0')}`, who: 'Tobin', at_ms: Date.now() - 3000 });
  const STARTED: SheetEventDoc[] = [
    ...['closed-stop', 'open-stop', 'coupler', 'clear', 'plug-in', 'threads'].map((step): SheetEventDoc => ({
      ...stamp(),
      type: 'done',
      step,
    })),
    ...['snap', 'travel', 'floor', 'seated', 'counted', 'nothing-left'].map((gate): SheetEventDoc => ({
      ...stamp(),
      type: 'passed',
      gate,
    })),
    { ...stamp(), type: 'done', step: 'start' },
    { ...stamp(), type: 'engine on' },
  ];

  it('is heard against the job’s own band, a reading a second goes on the sheet, and it stops with the engine', async () => {
    renderJob(<InstallStop written={STARTED} />);
    const events: SheetEventDoc[] = [...STARTED];
    globalThis.fetch = ((url: string, init?: RequestInit) => {
      if (String(url).endsWith('/sheet')) events.push(JSON.parse(String(init?.body)) as SheetEventDoc);
      const saved = {
        version: 2,
        savedAt: '2026-04-18T10:00:00Z',
        findings: jobFindings(larkspur, units, { stock: 0, other: 0, compared: null }),
      };
      const answer = String(url).endsWith('/sheet') ? [...events] : saved;
      return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(answer) } as Response);
    }) as typeof fetch;
    await waitFor(() => expect(button('Listen to the practice tachometer')).toBeEnabled());
    await pick('Practice tachometer (simulated) plays', 'a sticking throttle');
    await userEvent.click(button('Listen to the practice tachometer'));
    expect(FakeEventSource.latest().url).toBe('/api/stand-ins/tachometer?low=650&high=850&case=sticking%20throttle&seed=1041');
    act(() => {
      for (let i = 0; i < 4; i += 1) FakeEventSource.latest().give({ t_s: i / 5, rpm: 781.4 });
    });
    expect(screen.getByLabelText('Engine speed')).toHaveTextContent('781 rpm simulated');
    await userEvent.click(button('Engine off'));
    expect(FakeEventSource.latest().closed).toBe(true);
    await waitFor(() => expect(events.slice(STARTED.length).map((e) => e.type)).toEqual(['rpm', 'engine off']));
    // Four readings within one second are one on the sheet.
    expect(events[STARTED.length]).toMatchObject({ rpm: [781], step_ms: 1000 });
  });

  it('that is away says so', async () => {
    renderJob(<InstallStop written={STARTED} />);
    await waitFor(() => expect(button('Listen to the practice tachometer')).toBeEnabled());
    await userEvent.click(button('Listen to the practice tachometer'));
    act(() => FakeEventSource.latest().onerror?.());
    expect(screen.getByText('The tachometer is away; it is tried again.')).toBeInTheDocument();
  });
});
