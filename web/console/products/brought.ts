import { onMounted, onUnmounted, ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';

type Import = Schemas['ProductImportView'];

const EACH = 400;

/** A file of products that was brought in: read and taken beside the requests, followed until that is done, and found again by whoever comes back. */
export function useBrought(taken: (outcome: NonNullable<Import['outcome']>) => void) {
  const brought = ref<Import>();
  const { busy, failure, run } = useWork();
  const isUnderWay = (now?: Import) => !!now && !now.failed && (now.state === 'reading' || now.state === 'taking');
  let isHere = true;

  async function follow(): Promise<void> {
    while (isHere && isUnderWay(brought.value)) {
      await new Promise((resolve) => setTimeout(resolve, EACH));
      const id = brought.value?.id;
      if (!id) return;
      try {
        // Looking is no work that others wait for: a file can be left at any time.
        const now = await ask(api.GET('/api/console/v1/products/imports/{id}', { params: { path: { id } } }));
        if (brought.value?.id !== id) return;
        brought.value = now;
      } catch (error) {
        if (brought.value?.id === id) failure.value = sentenceOf(error);
        return;
      }
    }
    if (isHere && brought.value?.state === 'taken') {
      const { outcome } = brought.value;
      brought.value = undefined;
      taken(outcome!);
    }
  }

  async function bring(file: File): Promise<void> {
    const type = /\.json$/i.test(file.name) || file.type === 'application/json' ? 'application/json' : 'text/csv';
    const begun = await run(() =>
      ask(
        api.POST('/api/console/v1/products/imports', {
          params: { query: { name: file.name } },
          body: file as never,
          bodySerializer: (body: unknown) => body as BodyInit,
          headers: { 'content-type': type },
        }),
      ),
    );
    if (!begun) return;
    brought.value = begun;
    await follow();
  }

  async function take(): Promise<void> {
    const { id, outcome } = brought.value!;
    const now = await run(() =>
      ask(
        api.POST('/api/console/v1/products/imports/{id}/take', {
          params: { path: { id } },
          body: { seen: outcome!.digest },
        }),
      ),
    );
    if (!now) return;
    brought.value = now;
    await follow();
  }

  async function leave(): Promise<void> {
    const { id } = brought.value!;
    brought.value = undefined;
    await run(() => ask(api.DELETE('/api/console/v1/products/imports/{id}', { params: { path: { id } } })));
  }

  onMounted(async () => {
    try {
      const last = await ask(api.GET('/api/console/v1/products/imports'));
      // A file that is chosen meanwhile is the newer one.
      if (!last || brought.value || busy.value) return;
      brought.value = last;
      await follow();
    } catch (error) {
      failure.value = sentenceOf(error);
    }
  });
  onUnmounted(() => (isHere = false));

  return { brought, busy, failure, isUnderWay, bring, take, leave };
}
