import { ref, watch, type Ref } from 'vue';
import { say } from '../shared/wording';

/** What is read out when further things come to be asked, or some no longer are. One without a name comes and goes in silence. */
export function announced(asked: () => { id: string; name: string }[]): Ref<string> {
  const said = ref('');
  watch(
    () => asked().map((a) => a.id),
    (now, before) => {
      const further = asked().filter((a) => a.name && !before.includes(a.id));
      if (before.length && further.length) said.value = say('form.now_asked', further.map((a) => a.name).join(', '));
      else if (now.length < before.length) said.value = say('form.no_longer_asked');
    },
  );
  return said;
}
