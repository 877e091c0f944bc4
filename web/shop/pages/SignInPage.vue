<script setup lang="ts">
import { useRouter } from 'vue-router';
import { api, ask, forgetToken } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { shopper } from '../catalogue';
import { useCart } from '../cart';
import { say } from '../../shared/wording';

// A link is taken by a click and not by being opened: mail programs open links by themselves.
const { token } = defineProps<{ token: string }>();
const router = useRouter();
const { busy, failure, run } = useWork();

async function signIn(): Promise<void> {
  await run(async () => {
    shopper.value = await ask(api.POST('/api/shop/v1/account/session', { body: { token } }));
    forgetToken();
    await useCart('cart').load();
    await router.replace('/account');
  });
}
</script>

<template>
  <div class="sheet narrow">
    <h1>{{ say('shop.your_account') }}</h1>
    <p v-if="failure" class="problem" role="alert">
      {{ failure }} <RouterLink to="/account">{{ say('shop.ask_another') }}</RouterLink>
    </p>
    <p v-else>{{ say('shop.opens_account') }}</p>
    <button class="buy" :disabled="busy" @click="signIn">{{ say('shop.open_account') }}</button>
  </div>
</template>
