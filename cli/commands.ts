import { Usage, type CommandResult } from './result';
import type { Machine } from './session-file';

/** One command line: the command's name and what follows it. Each command is loaded when it is asked for. */
export async function runCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const [command, ...rest] = args;
  switch (command) {
    case 'pair':
      return (await import('./pair')).pairCommand(rest);
    case 'validate':
      return (await import('./validate')).validateCommand(rest, machine);
    case 'analyse':
      return (await import('./analyse')).analyseCommand(rest, machine);
    case 'detail':
      return (await import('./detail')).detailCommand(rest, machine);
    case 'map':
      return (await import('./map')).mapCommand(rest);
    case 'solve':
      return (await import('./solve')).solveCommand(rest);
    case 'check':
      return (await import('./check')).checkCommand(rest, machine);
    case 'rig':
      return (await import('./rig')).rigCommand(rest, machine);
    case 'measure':
      return (await import('./measure')).measureCommand(rest, machine);
    case 'process':
      return (await import('./process')).processCommand(rest, machine);
    case 'signal':
      return (await import('./signal')).signalCommand(rest, machine);
    case 'render':
      return (await import('./render')).renderCommand(rest, machine);
    case 'advise':
      return (await import('./advise')).adviseCommand(rest, machine);
    case 'soundcheck':
      return (await import('./soundcheck')).soundcheckCommand(rest, machine);
    case 'recall':
      return (await import('./recall')).recallCommand(rest, machine);
    case 'difference':
      return (await import('./recall')).differenceCommand(rest, machine);
    case '--help':
    case 'help':
      return { status: 0, out: (await import('./help')).HELP, errors: [] };
    default:
      throw new Usage(command ? `unknown command “${command}”` : 'no command given');
  }
}
