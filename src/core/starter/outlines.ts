import type { Questionnaire } from "../questionnaire";
import { readOutline } from "./outline";

/** Written by us, at a reading grade of about 6; each is meant to be copied and changed. */
export const outlines: readonly Questionnaire[] = [
  readOutline(
    {
      name: "child-intake",
      title: "About your child",
      description: "For a parent or guardian, before the first visit of a child.",
      kind: "intake",
    },
    `
# About your child
Child's first name * > first-name
Child's last name * > last-name
date Birth date * > birth-date
What do they like to be called? > preferred-name
Who lives at home with them?
# Who you are
Your name * > emergency-name replace
How are you related to the child? * > emergency-relation replace
tel Your phone * > emergency-phone replace
y/n {shared} Does somebody else share the care? *
Who is that, and do they know of this visit?
  ? shared = yes
# Health
... {illness} Illnesses or conditions, now or before > conditions add
y/n {medicines-yes} Do they take any medicine? *
** {medicines} Medicines > medicines
  ? medicines-yes = yes
  Name of the medicine * > name
  How much > dose
  How often > often
y/n {allergic} Are they allergic to anything? *
** {allergies} Allergies > allergies
  ? allergic = yes
  Allergic to * > substance
  What happens > reaction
Family doctor > family-doctor replace
# Day to day
How is sleep?
How is eating?
() {school} How are things at school or nursery?
  - Fine
  - Up and down
  - Hard
  - Not at school yet
... What is hard at school?
  ? school = Hard
... What brings you here? * > main-concern replace
... What do you hope will be different? > goals replace
`,
  ),
  readOutline(
    {
      name: "physiotherapy-intake",
      title: "Before your first physiotherapy visit",
      description: "Where it hurts, since when, and what it keeps you from.",
      kind: "intake",
    },
    `
# What brings you here
... {where} Where does it hurt or feel wrong? * > main-concern replace
() {since} Since when? *
  - Less than 6 weeks
  - 6 weeks to 3 months
  - Longer
() {began} How did it begin? *
  - With an injury or a fall
  - Slowly
  - After an operation
  - I do not know
What happened?
  ? began = With an injury or a fall
date When was the operation?
  ? began = After an operation
1-10 {now} How strong is the pain now? *
  : 0 is no pain, 10 is the worst you can think of.
  ! >= 9 => Very strong pain now
1-10 {worst} How strong was it at its worst last week? *
[] What makes it worse?
  - Sitting
  - Standing
  - Walking
  - Lifting
  - Playing an instrument
  - Work in the garden
  - ! Nothing I know of
What helps?
y/n {night} Does pain wake you at night? *
y/n {numb} Is there a place that is numb or tingles? *
Where is it numb or tingling?
  ? numb = yes
# Things we must know
[] {warning} Did any of these come with it? *
  - Weight loss I cannot explain
  - Fever
  - Trouble holding water or stool
  - Weak legs
  - ! None of these
  ! Weight loss I cannot explain | Fever | Trouble holding water or stool | Weak legs => Red flag before the first visit
... Operations and injuries before > operations add
... Other illnesses > conditions add
y/n {thin} Do you take a medicine that thins the blood? *
  ! yes => Takes a medicine that thins the blood
# Your days
Work or study > occupation replace
What do you do to move or play? > movement replace
An instrument or tool you use for hours
... What would you like to do again? * > goals replace
`,
  ),
  readOutline(
    {
      name: "dietitian-intake",
      title: "Before your first visit with the dietitian",
      description: "What you eat, what you want to change, and what we must take care of.",
      kind: "intake",
    },
    `
# What you want
... What would you like help with? * > main-concern replace
... What should be different in three months? > goals replace
# Your health
cm How tall are you?
kg What do you weigh, if you know?
  : You need not weigh yourself for this.
() {weight} Has your weight changed in the last half year? *
  - No
  - Down, and I meant it to
  - Down, and I do not know why
  - Up
  - I prefer not to say
  ! Down, and I do not know why => Weight loss without a known reason
... Illnesses > conditions add
y/n {allergic} Do you have allergies or foods you cannot eat? *
** {allergies} Allergies > allergies
  ? allergic = yes
  What food? * > substance
  What happens > reaction
# How you eat
123 How many meals do you have on most days?
[] Which of these do you leave out?
  - Meat
  - Fish
  - Milk
  - Eggs
  - Gluten
  - ! None of these
... What did you eat and drink yesterday?
() {cook} Who cooks at home?
  - I do
  - Somebody else
  - We share it
  - Mostly nobody
y/n {worry} Do you worry a lot about food or weight?
  : You can leave this open and talk about it instead.
  ! yes => Worries a lot about food or weight
... What would help you with that?
  ? worry = yes
`,
  ),
  readOutline(
    {
      name: "perinatal-intake",
      title: "Pregnancy and the time after",
      description: "Before the first visit with the perinatal dietitian.",
      kind: "intake",
    },
    `
# Where you are
() {stage} Which is true for you now? * > pregnancy replace
  - I am pregnant
  - I gave birth in the last 12 months
  - I am planning a pregnancy
  - I prefer not to say
date When is your baby due?
  ? stage = I am pregnant
123 Which week are you in?
  ? stage = I am pregnant
date When was your baby born?
  ? stage = I gave birth in the last 12 months
() How do you feed your baby?
  ? stage = I gave birth in the last 12 months
  - Breast milk
  - Formula
  - Both
  - Solid food too
# Health
[] {told} Were you told of any of these?
  - Sugar in pregnancy
  - High blood pressure
  - Low iron
  - Thyroid
  - ! None of these
  ! High blood pressure => High blood pressure in pregnancy
y/n {sick} Do you feel sick or vomit? *
1-10 How bad is it on most days?
  ? sick = yes
  ! >= 8 => Very sick on most days
Medicines and supplements you take
# What you want
... What would you like help with? * > main-concern replace
Who supports you? > support replace
`,
  ),
  readOutline(
    {
      name: "skin-consultation",
      title: "Before a skin treatment",
      description: "What your skin is like and what it must not get.",
      kind: "intake",
    },
    `
# Your skin
... What would you like to have treated? * > main-concern replace
() {sun} What does your skin do in the sun? *
  - It burns and never tans
  - It burns first, then tans a little
  - It tans and seldom burns
  - It is brown or black and hardly burns
() {recent} Were you in strong sun or on a sunbed in the last four weeks? *
  - Yes
  - No
[] {has} Do you have any of these? *
  - Cold sores
  - Eczema
  - Scars that grow thick
  - Open skin or an infection
  - ! None of these
  ! Scars that grow thick | Open skin or an infection => Not to be treated before it was looked at
y/n {before} Did you have a skin treatment before? *
What was it, and how did your skin take it?
  ? before = yes
# What we must know
y/n {pregnant} Could you be pregnant, or do you breastfeed?
  ! yes => May be pregnant, or breastfeeds
[] {medicine} Do you use any of these? *
  - A medicine for acne
  - A medicine that thins the blood
  - Steroids
  - Creams with acids or retinol
  - ! None of these
  ! A medicine for acne | A medicine that thins the blood => Uses a medicine that a treatment must wait for
y/n {allergic} Are you allergic to anything? *
** {allergies} Allergies > allergies
  ? allergic = yes
  Allergic to * > substance
  What happens > reaction
`,
  ),
  readOutline(
    {
      name: "privacy-notice",
      title: "How we look after your data",
      description: "What we keep, why, and what you can ask for.",
      kind: "consent",
      signed: true,
    },
    `
-- We keep your name, how to reach you, your answers, and our notes of your visits. We need them to care for you.
-- Only people who care for you or run our front desk see them. The front desk does not see your answers.
-- We do not sell your data. We give it to others only when you ask us to, or when the law says we must.
-- You can ask to see what we keep, to have a mistake put right, and to get a copy.
terms {read} I have read how my data is looked after *
  t: We keep your record for as long as the law asks of us, and delete it after that. If you think we did something wrong, tell us first. You can also tell the office that watches over data in our country.
`,
  ),
  readOutline(
    {
      name: "remote-consent",
      title: "Visits by video or phone",
      description: "What is different when we do not meet in the room.",
      kind: "consent",
      signed: true,
    },
    `
-- A visit by video or phone is as private as we can make it. Please be in a room where nobody listens.
-- We do not record it. Please do not record it either, unless we both agree.
y/n {room} I will be in a place where I can talk freely *
  ! no => Cannot talk freely where they will be
tel {phone} Where can we call you if the line drops? *
{place} Where will you be, in case we must send help? *
  : Street and town are enough.
y/n {agree} I agree to visits by video or phone *
  ! no => Does not agree to visits by video or phone
`,
  ),
  readOutline(
    {
      name: "cancellation-terms",
      title: "If you cannot come",
      description: "Until when a visit can be moved, and what it costs after that.",
      kind: "consent",
      signed: true,
    },
    `
-- You can move or cancel a visit until 24 hours before it. It costs nothing.
-- If you cancel later, or do not come, we charge half of the visit. If you are ill, tell us: then we do not.
y/n {agree} I understand and agree *
  ! no => Does not agree to the terms
`,
  ),
  readOutline(
    {
      name: "photo-consent",
      title: "Photos of you",
      description: "Whether and what for we may take and keep photos.",
      kind: "consent",
      signed: true,
    },
    `
-- Photos help us to see what changes. You can say no, and you get the same care.
y/n {take} May we take photos for your record? *
() {teach} May we also show them to teach others? *
  ? take = yes
  - No
  - Yes, if nobody can tell that it is me
y/n {face} May your face be in them?
  ? take = yes
-- You can change your mind at any time. Then we take no more photos.
`,
  ),
  readOutline(
    {
      name: "goals-preparation",
      title: "What you want to get out of it",
      description: "To think about before we set goals.",
      kind: "intake",
    },
    `
... What would you like to be different? * > goals replace
... How would somebody who knows you notice it?
1-10 {near} How close to it are you today? *
1-10 {matters} How much does it matter to you? *
... What have you tried, and what helped a little?
Who could help you? > support replace
`,
  ),
  readOutline(
    { name: "before-visit", title: "Before we meet again", description: "Short, for each visit.", kind: "intake" },
    `
() {how} How have you been since last time? *
  - Better
  - The same
  - Worse
... What got worse?
  ? how = Worse
... What would you like to talk about?
y/n {new} Is there a new pill, an illness or a wound? *
What is new?
  ? new = yes
`,
  ),
  readOutline(
    {
      name: "yearly-check",
      title: "Is this still right?",
      description: "Once a year: what is on file, looked at again.",
      kind: "intake",
    },
    `
# How to reach you
@ E-mail > email
tel Phone * > phone
post Address > address replace
Who should we call if you are unwell here? * > emergency-name replace
tel Their phone * > emergency-phone replace
# Your health
Family doctor > family-doctor replace
... Illnesses > conditions ask
... Operations and injuries > operations ask
y/n {changed} Did your medicines change? *
** {medicines} Medicines you take now > medicines
  ? changed = yes
  Name of the medicine * > name
  How much > dose
  How often > often
`,
  ),
  readOutline(
    {
      name: "session-feedback",
      title: "How was our visit?",
      description: "Four sentences of our own about working together. Not a published measure.",
      kind: "measure",
    },
    `
1-10 {heard} I felt heard *
1-10 {goals} We worked on what matters to me *
1-10 {way} The way we worked suited me *
1-10 {worth} The visit was worth my time *
... What should we do in another way next time?
`,
  ),
].map(withFeedbackScore);

function withFeedbackScore(questionnaire: Questionnaire): Questionnaire {
  if (questionnaire.name !== "session-feedback") return questionnaire;
  return {
    ...questionnaire,
    items: [
      ...questionnaire.items,
      {
        type: "decimal",
        linkId: "feedback-mean",
        text: "Working together, mean of four",
        codes: [],
        required: false,
        repeats: false,
        readOnly: true,
        options: [],
        items: [],
        score: {
          method: "mean",
          items: ["heard", "goals", "way", "worth"],
          fewestAnswered: 3,
          proration: "none",
          bands: [],
          change: { better: "higher" },
        },
      },
    ],
  };
}
