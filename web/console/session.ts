import { computed, shallowRef } from 'vue';
import { api, ask, forgetToken, type Schemas } from '../shared/api/client';

export const session = shallowRef<Schemas['SessionView']>();

/** Whether whoever is signed in has a right. */
export const may = (right: string): boolean => session.value?.rights.includes(right) ?? false;

export const isManager = computed(() => may('register'));

export async function readSession(): Promise<void> {
  session.value = await ask(api.GET('/api/console/v1/session'));
}

export async function signIn(email: string, password: string): Promise<void> {
  const next = await ask(api.POST('/api/console/v1/session', { body: { email, password } }));
  forgetToken();
  session.value = next;
}

export async function signOut(): Promise<void> {
  await ask(api.DELETE('/api/console/v1/session'));
  forgetToken();
  await readSession();
}
