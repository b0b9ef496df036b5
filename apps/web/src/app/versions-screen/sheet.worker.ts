import { answerToSheet } from './sheet-answer';

const answer = answerToSheet();

addEventListener('message', ({ data }) => {
  const { reply, transfer } = answer(data);
  postMessage(reply, { transfer });
});
