/** Levels in one step: the server measures and says which edit it is; here it is made. */
import { notifications } from '@mantine/notifications';
import { client, unwrap, type Schemas } from '../../api/client';
import { useSession } from '../../reel/session';

export type Step = Schemas['StepRequest']['step'];

export interface StepRequest {
  step: Step;
  of: string[];
  other?: string;
  value?: number;
}

/** Set a level; what was done is said, and so is why it could not be. */
export async function setLevel(request: StepRequest): Promise<boolean> {
  const { id, edit, tell } = useSession.getState();
  const said = notifications.show({ message: 'Measuring…', loading: true, autoClose: false });
  try {
    const cure = await unwrap(
      client.POST('/api/reels/{id}/level', { params: { path: { id } }, body: request }),
    );
    if (cure.commands.length > 0) return await edit(cure.commands as never);
    tell(`${cure.label}.`);
    return false;
  } catch (error) {
    tell(error instanceof Error ? error.message : 'The server does not answer.');
    return false;
  } finally {
    notifications.hide(said);
  }
}
