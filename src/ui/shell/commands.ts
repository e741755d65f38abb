import { create } from 'zustand';

/** Something that can be found or done from anywhere by typing. */
export interface Command {
  readonly id: string;
  readonly title: string;
  readonly hint: string;
  readonly run: () => void;
}

interface Commands {
  readonly groups: Readonly<Record<string, readonly Command[]>>;
  readonly offer: (group: string, commands: readonly Command[]) => void;
}

/** Each screen offers its commands under a name of its own and takes them back by offering none. */
export const useCommands = create<Commands>((set) => ({
  groups: {},
  offer: (group, commands) => set((s) => ({ groups: { ...s.groups, [group]: commands } })),
}));
