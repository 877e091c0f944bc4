// Sets each element that asks for it in the largest type in which it fits its box; sizes in points, found by halving.
() => {
  for (const box of document.querySelectorAll('[data-fit]')) {
    const [least, most] = box.dataset.fit.split(' ').map(Number);
    const fits = (points) => {
      box.style.fontSize = `${points}pt`;
      return box.scrollHeight <= box.clientHeight + 1 && box.scrollWidth <= box.clientWidth + 1;
    };
    let [low, high] = [least, most];
    while (high - low > 0.5) {
      const middle = (low + high) / 2;
      if (fits(middle)) low = middle;
      else high = middle;
    }
    // What does not fit in the least takes the room that it needs.
    if (!fits(low)) box.style.height = 'auto';
  }
}
