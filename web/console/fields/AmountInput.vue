<script setup lang="ts">
import { ref } from 'vue';
import type { Draft } from './draft';
import { amountText, minorOf, ppmOf, shareText } from './money';
import WordInput from './WordInput.vue';

/** An amount of money, or a share, typed in place in a sentence. What is neither stays as typed and says what is wanted. */
const { value, money, share, label } = defineProps<{ value: number; money: Draft['money']; share?: boolean; label: string }>();
const emit = defineEmits<{ save: [value: number] }>();

const wrong = ref('');

function take(typed: string): void {
  const read = share ? ppmOf(typed) : minorOf(typed, money);
  wrong.value = read === undefined ? typed : '';
  if (read !== undefined && read !== value) emit('save', read);
}
</script>

<template>
  <span class="amount"
    ><template v-if="!share">{{ money.symbol }}&nbsp;</template
    ><WordInput :value="share ? shareText(value) : amountText(value, money)" :label="label" :invalid="!!wrong" @save="take" /><template
      v-if="share"
      >&nbsp;%</template
    ></span
  >
  <span v-if="wrong" class="call" role="alert">
    “{{ wrong }}” is no {{ share ? 'share. Give one such as 7.5' : `amount. Give one such as ${amountText(120, money)}` }}.</span
  >
</template>

<style scoped>
.amount {
  white-space: nowrap;
}
</style>
