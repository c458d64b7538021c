import { withoutRootQuestions } from './lean-css';

test('questions to the whole page go, themes and everything else stay', () => {
  const css =
    ':root,[data-theme=day]{--a:1}:root:has(input.theme-controller[value=day]:checked){--a:1;--b:2}' +
    ':is(:root:has(input.theme-controller[value=dusk]:checked),[data-theme=dusk]){--a:3}' +
    '.modal[open]>.modal-box{opacity:1}:root:has(:is(.modal.modal-open,.modal[open])){--page-scroll-lock: }:root:has(.modal:popover-open){--page-scroll-lock: }.x:has(.y){color:red}';
  expect(withoutRootQuestions(css)).toBe(
    ':root,[data-theme=day]{--a:1}[data-theme=dusk]{--a:3}.modal[open]>.modal-box{opacity:1}.x:has(.y){color:red}',
  );
});
