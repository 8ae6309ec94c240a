import { fail, ok, type Result, mainLanguage } from "../shared";
import { fillWording, type Placeholder, type Wording } from "./wording";

/** Letters to clients and relations, each as an e-mail and as a text; `locked` goes to staff. */
export const letterKinds = [
  "packet",
  "packetForVisit",
  "nudge",
  "sentBack",
  "sign",
  "signed",
  "takeHome",
  "code",
] as const;
export type LetterKind = (typeof letterKinds)[number];
export interface Letter {
  readonly email: Wording;
  readonly text: Wording;
}

/** The placeholders that are known whenever such a letter is sent, and so may stand in it. */
export function placeholdersFor(kind: LetterKind): readonly Placeholder[] {
  if (kind === "code") return ["recipient.firstName", "practice.name", "code"];
  // Who signs may be anybody: whose papers they are stands behind the door.
  if (kind === "sign" || kind === "signed") return ["recipient.firstName", "practice.name", "link", "expires"];
  return [
    "recipient.firstName",
    "client.firstName",
    "practitioner.name",
    "practice.name",
    "link",
    "door",
    "about",
    "expires",
    ...(kind === "packetForVisit" ? (["visit.when"] as const) : []),
  ];
}
/** What each kind is pointless without. */
export const mustHave = (kind: LetterKind): "link" | "code" => (kind === "code" ? "code" : "link");

/**
 * The practice's starting wordings by language. Health data never stands in them: not even the questionnaires' titles.
 */
export const startingLetters: Readonly<Record<string, Readonly<Record<LetterKind, Letter>>>> = {
  en: {
    packetForVisit: {
      email: {
        subject: "Before your visit at {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{about}}\n\nBefore the visit with {{practitioner.name}} on {{visit.when}}, please answer some questions for us. You can stop at any time and go on later; what you typed is kept.\n\nOpen your personal page:\n{{link}}\n\n{{door}} The page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: please answer some questions before {{visit.when}}. Your page, until {{expires}}: {{link}} {{about}}",
      },
    },
    packet: {
      email: {
        subject: "Some questions from {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{about}}\n\n{{practitioner.name}} asks you to answer some questions. You can stop at any time and go on later; what you typed is kept.\n\nOpen your personal page:\n{{link}}\n\n{{door}} The page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: please answer some questions for us. Your page, until {{expires}}: {{link}} {{about}}",
      },
    },
    nudge: {
      email: {
        subject: "Not sent yet: your answers to {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{about}}\n\nWe have not had your answers yet. What you typed so far is kept; you can go on where you stopped:\n{{link}}\n\nThe page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: we have not had your answers yet. Your page, until {{expires}}: {{link}} {{about}}",
      },
    },
    sentBack: {
      email: {
        subject: "A question about your answers to {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{about}}\n\nThank you for your answers. {{practitioner.name}} asks you to look at some of them once more. Only these are open; the others stay as they are:\n{{link}}\n\nThe page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: please look at some of your answers once more. Your page, until {{expires}}: {{link}} {{about}}",
      },
    },
    sign: {
      email: {
        subject: "Something to sign for {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{practice.name}} asks you to read something and to sign it. Before it opens, a code goes to this address.\n\nOpen your personal page:\n{{link}}\n\nThe page is open until {{expires}}. You can ask for paper there instead.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: please read something and sign it. Your page, until {{expires}}: {{link}}",
      },
    },
    signed: {
      email: {
        subject: "Signed by everybody: your copy from {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\nEverybody has signed. Your copy is on your page, for you to read and to keep. Before it opens, a code goes to this address:\n{{link}}\n\nThe page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: everybody has signed. Your copy, until {{expires}}: {{link}}" },
    },
    takeHome: {
      email: {
        subject: "From your visit: something to read from {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\n{{practice.name}} has written down for you what was agreed. It is on your page, for you to read and to keep. {{door}}\n{{link}}\n\nThe page is open until {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: something from your visit is there to read, until {{expires}}: {{link}} {{door}}",
      },
    },
    code: {
      email: {
        subject: "Your code for {{practice.name}}",
        body: "Hello {{recipient.firstName}},\n\nYour code is {{code}}\n\nIt works for 10 minutes. We never ask for it by phone or e-mail. If you did not ask for it, you need not do anything.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{code}} is your code for {{practice.name}}. It works for 10 minutes." },
    },
  },
  es: {
    packetForVisit: {
      email: {
        subject: "Antes de su visita en {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{about}}\n\nAntes de la visita con {{practitioner.name}}, {{visit.when}}, responda por favor a unas preguntas. Puede parar cuando quiera y seguir después; lo que escribió se guarda.\n\nAbra su página personal:\n{{link}}\n\n{{door}} La página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: responda por favor a unas preguntas antes de {{visit.when}}. Su página, hasta el {{expires}}: {{link}} {{about}}",
      },
    },
    packet: {
      email: {
        subject: "Unas preguntas de {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{about}}\n\n{{practitioner.name}} le pide que responda a unas preguntas. Puede parar cuando quiera y seguir después; lo que escribió se guarda.\n\nAbra su página personal:\n{{link}}\n\n{{door}} La página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: responda por favor a unas preguntas. Su página, hasta el {{expires}}: {{link}} {{about}}",
      },
    },
    nudge: {
      email: {
        subject: "Aún no enviado: sus respuestas a {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{about}}\n\nAún no tenemos sus respuestas. Lo que escribió está guardado; puede seguir donde lo dejó:\n{{link}}\n\nLa página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: aún no tenemos sus respuestas. Su página, hasta el {{expires}}: {{link}} {{about}}",
      },
    },
    sentBack: {
      email: {
        subject: "Una pregunta sobre sus respuestas a {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{about}}\n\nGracias por sus respuestas. {{practitioner.name}} le pide que mire algunas otra vez. Solo esas están abiertas; las demás quedan como están:\n{{link}}\n\nLa página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: mire por favor algunas de sus respuestas otra vez. Su página, hasta el {{expires}}: {{link}} {{about}}",
      },
    },
    sign: {
      email: {
        subject: "Algo que firmar para {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{practice.name}} le pide que lea algo y lo firme. Antes de abrirlo se envía un código a esta dirección.\n\nAbra su página personal:\n{{link}}\n\nLa página está abierta hasta el {{expires}}. Allí también puede pedir papel.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: lea y firme algo, por favor. Su página, hasta el {{expires}}: {{link}}",
      },
    },
    signed: {
      email: {
        subject: "Firmado por todos: su copia de {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\nYa han firmado todos. Su copia está en su página, para leerla y guardarla. Antes de abrirla se envía un código a esta dirección:\n{{link}}\n\nLa página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: ya han firmado todos. Su copia, hasta el {{expires}}: {{link}}" },
    },
    takeHome: {
      email: {
        subject: "De su visita: algo para leer de {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\n{{practice.name}} ha anotado para usted lo acordado. Está en su página, para leerlo y guardarlo. {{door}}\n{{link}}\n\nLa página está abierta hasta el {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: tiene algo de su visita para leer, hasta el {{expires}}: {{link}} {{door}}",
      },
    },
    code: {
      email: {
        subject: "Su código para {{practice.name}}",
        body: "Hola, {{recipient.firstName}}:\n\nsu código es {{code}}\n\nSirve durante 10 minutos. Nunca lo pedimos por teléfono ni por correo. Si no lo ha pedido, no tiene que hacer nada.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{code}} es su código para {{practice.name}}. Sirve durante 10 minutos." },
    },
  },
  fr: {
    packetForVisit: {
      email: {
        subject: "Avant votre visite chez {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{about}}\n\nAvant la visite avec {{practitioner.name}}, {{visit.when}}, répondez s’il vous plaît à quelques questions. Vous pouvez vous arrêter à tout moment et continuer plus tard ; ce que vous avez écrit est gardé.\n\nOuvrez votre page personnelle :\n{{link}}\n\n{{door}} La page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : répondez s’il vous plaît à quelques questions avant {{visit.when}}. Votre page, jusqu’au {{expires}} : {{link}} {{about}}",
      },
    },
    packet: {
      email: {
        subject: "Quelques questions de {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{about}}\n\n{{practitioner.name}} vous demande de répondre à quelques questions. Vous pouvez vous arrêter à tout moment et continuer plus tard ; ce que vous avez écrit est gardé.\n\nOuvrez votre page personnelle :\n{{link}}\n\n{{door}} La page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : répondez s’il vous plaît à quelques questions. Votre page, jusqu’au {{expires}} : {{link}} {{about}}",
      },
    },
    nudge: {
      email: {
        subject: "Pas encore envoyé : vos réponses à {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{about}}\n\nNous n’avons pas encore vos réponses. Ce que vous avez écrit est gardé ; vous pouvez continuer où vous en étiez :\n{{link}}\n\nLa page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : nous n’avons pas encore vos réponses. Votre page, jusqu’au {{expires}} : {{link}} {{about}}",
      },
    },
    sentBack: {
      email: {
        subject: "Une question sur vos réponses à {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{about}}\n\nMerci de vos réponses. {{practitioner.name}} vous demande d’en revoir quelques-unes. Elles seules sont ouvertes ; les autres restent comme elles sont :\n{{link}}\n\nLa page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : revoyez s’il vous plaît quelques réponses. Votre page, jusqu’au {{expires}} : {{link}} {{about}}",
      },
    },
    sign: {
      email: {
        subject: "Quelque chose à signer pour {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{practice.name}} vous demande de lire un texte et de le signer. Avant l’ouverture, un code est envoyé à cette adresse.\n\nOuvrez votre page personnelle :\n{{link}}\n\nLa page est ouverte jusqu’au {{expires}}. Vous pouvez aussi y demander du papier.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : merci de lire un texte et de le signer. Votre page, jusqu’au {{expires}} : {{link}}",
      },
    },
    signed: {
      email: {
        subject: "Signé par tous : votre copie de {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\nTout le monde a signé. Votre copie est sur votre page, pour la lire et la garder. Avant l’ouverture, un code est envoyé à cette adresse :\n{{link}}\n\nLa page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : tout le monde a signé. Votre copie, jusqu’au {{expires}} : {{link}}",
      },
    },
    takeHome: {
      email: {
        subject: "De votre visite : un texte à lire de {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\n{{practice.name}} a noté pour vous ce qui a été convenu. C’est sur votre page, à lire et à garder. {{door}}\n{{link}}\n\nLa page est ouverte jusqu’au {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}} : un texte de votre visite est à lire, jusqu’au {{expires}} : {{link}} {{door}}",
      },
    },
    code: {
      email: {
        subject: "Votre code pour {{practice.name}}",
        body: "Bonjour {{recipient.firstName}},\n\nvotre code est {{code}}\n\nIl marche pendant 10 minutes. Nous ne le demandons jamais par téléphone ni par e-mail. Si vous ne l’avez pas demandé, vous n’avez rien à faire.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{code}} est votre code pour {{practice.name}}. Il marche pendant 10 minutes." },
    },
  },
  ar: {
    packetForVisit: {
      email: {
        subject: "قبل زيارتك في {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\n{{about}}\n\nقبل الزيارة مع {{practitioner.name}} في {{visit.when}} نرجو أن تجيب عن بعض الأسئلة. يمكنك أن تتوقف متى شئت وتكمل لاحقًا، وما كتبته محفوظ.\n\nافتح صفحتك الشخصية:\n{{link}}\n\n{{door}} الصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: نرجو أن تجيب عن بعض الأسئلة قبل {{visit.when}}. صفحتك حتى {{expires}}: {{link}} {{about}}",
      },
    },
    packet: {
      email: {
        subject: "بعض الأسئلة من {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\n{{about}}\n\nيرجو منك {{practitioner.name}} أن تجيب عن بعض الأسئلة. يمكنك أن تتوقف متى شئت وتكمل لاحقًا، وما كتبته محفوظ.\n\nافتح صفحتك الشخصية:\n{{link}}\n\n{{door}} الصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: نرجو أن تجيب عن بعض الأسئلة. صفحتك حتى {{expires}}: {{link}} {{about}}",
      },
    },
    nudge: {
      email: {
        subject: "لم تصلنا بعد: إجاباتك إلى {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\n{{about}}\n\nلم تصلنا إجاباتك بعد. ما كتبته محفوظ، ويمكنك أن تكمل من حيث توقفت:\n{{link}}\n\nالصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: لم تصلنا إجاباتك بعد. صفحتك حتى {{expires}}: {{link}} {{about}}" },
    },
    sentBack: {
      email: {
        subject: "سؤال عن إجاباتك إلى {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\n{{about}}\n\nشكرًا على إجاباتك. يرجو منك {{practitioner.name}} أن تنظر في بعضها مرة أخرى. هي وحدها مفتوحة، والباقي يبقى كما هو:\n{{link}}\n\nالصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: {
        subject: "",
        body: "{{practice.name}}: نرجو أن تنظر في بعض إجاباتك مرة أخرى. صفحتك حتى {{expires}}: {{link}} {{about}}",
      },
    },
    sign: {
      email: {
        subject: "ورقة للتوقيع من {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\nيرجو منك {{practice.name}} أن تقرأ نصًا وتوقّعه. قبل أن يُفتح يُرسل رمز إلى هذا العنوان.\n\nافتح صفحتك الشخصية:\n{{link}}\n\nالصفحة مفتوحة حتى {{expires}}. ويمكنك أن تطلب فيها ورقًا بدلًا من ذلك.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: يرجى قراءة نص وتوقيعه. صفحتك، حتى {{expires}}: {{link}}" },
    },
    signed: {
      email: {
        subject: "وقّع الجميع: نسختك من {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\nوقّع الجميع. نسختك في صفحتك لتقرأها وتحتفظ بها. قبل أن تُفتح يُرسل رمز إلى هذا العنوان:\n{{link}}\n\nالصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: وقّع الجميع. نسختك، حتى {{expires}}: {{link}}" },
    },
    takeHome: {
      email: {
        subject: "من زيارتك: نص لتقرأه من {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\nكتب لك {{practice.name}} ما اتُّفق عليه. تجده في صفحتك لتقرأه وتحتفظ به. {{door}}\n{{link}}\n\nتبقى الصفحة مفتوحة حتى {{expires}}.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "{{practice.name}}: نص من زيارتك جاهز للقراءة حتى {{expires}}: {{link}} {{door}}" },
    },
    code: {
      email: {
        subject: "رمزك لدى {{practice.name}}",
        body: "مرحبًا {{recipient.firstName}}،\n\nرمزك هو {{code}}\n\nيعمل لمدة 10 دقائق. لا نطلبه أبدًا بالهاتف أو بالبريد. إذا لم تطلبه فلا عليك أن تفعل شيئًا.\n\n{{practice.name}}",
      },
      text: { subject: "", body: "رمزك لدى {{practice.name}} هو {{code}}. يعمل لمدة 10 دقائق." },
    },
  },
};
/** The letters for a reader of `language`: in that one, or in English. */
export const lettersFor = (language: string): Readonly<Record<LetterKind, Letter>> =>
  startingLetters[mainLanguage(language)] ?? startingLetters["en"]!;

/** The one that goes to staff. */
export const lockedLetter: Wording = {
  subject: "A personal page was locked",
  body: "Hello {{practitioner.name}},\n\na personal page was locked after five wrong codes. Nobody got in. Sign in to {{practice.name}} to see whose it is and to send a fresh link:\n{{link}}",
};
/**
 * Goes to the practitioner when something that was returned has to be read at once; what it is stands in Returns only.
 */
export const alertLetter: Wording = {
  subject: "A return to read first",
  body: "Hello {{practitioner.name}},\n\nanswers came back that should be read at once. Sign in to {{practice.name}}:\n{{link}}",
};
/** Goes to owners when an alert stays open; whose it is, and what it is about, stands in the app only. */
export const alertOpenLetter: Wording = {
  subject: "An alert is still open",
  body: "Hello {{practitioner.name}},\n\nnobody has written yet what was done about an alert. Sign in to {{practice.name}}:\n{{link}}",
};
/** Goes to the practitioner when somebody declines to sign or asks for paper; who and what stands in the app only. */
export const signingLetter: Wording = {
  subject: "A signature needs you",
  body: "Hello {{practitioner.name}},\n\nsomebody who was to sign does not, or would rather sign on paper. Sign in to {{practice.name}} to see who and to go on:\n{{link}}",
};
/** Goes to whoever the answers are for; whose consent it was, and to what, stands in the app only. */
export const withdrawnLetter: Wording = {
  subject: "A consent was withdrawn",
  body: "Hello {{practitioner.name}},\n\nsomebody took back what they had agreed to. Sign in to {{practice.name}} to see whose consent it was, before you see them next:\n{{link}}",
};
/** Goes to who sent a letter that could not be delivered; whose it is stands in the app only. */
export const bouncedLetter: Wording = {
  subject: "A letter did not arrive",
  body: "Hello {{practitioner.name}},\n\na letter that you sent could not be delivered, so nobody has read it. There may be more. Sign in to {{practice.name}} to see whose it is and to reach them in another way:\n{{link}}",
};
/** Goes to where a client was reached until now, when their return changed that; nothing of who or where to. */
const contactLetters: Readonly<Record<string, Wording>> = {
  en: {
    subject: "Your contact details were changed",
    body: "Hello,\n\n{{practice.name}} writes to you somewhere else from now on, since you gave other contact details. If that was not you, please ring the practice; this address is not used any more.",
  },
  es: {
    subject: "Sus datos de contacto han cambiado",
    body: "Hola:\n\n{{practice.name}} le escribirá a otro lugar a partir de ahora, porque usted dio otros datos de contacto. Si no fue usted, llame a la consulta; esta dirección ya no se usa.",
  },
  fr: {
    subject: "Vos coordonnées ont été modifiées",
    body: "Bonjour,\n\n{{practice.name}} vous écrira désormais ailleurs, car vous avez donné d’autres coordonnées. Si ce n’était pas vous, appelez le cabinet ; cette adresse n’est plus utilisée.",
  },
  ar: {
    subject: "تم تغيير بيانات الاتصال الخاصة بك",
    body: "مرحبًا،\n\nستراسلك {{practice.name}} من الآن فصاعدًا على عنوان آخر، لأنك أعطيت بيانات اتصال أخرى. إن لم تكن أنت من فعل ذلك فاتصل بالعيادة؛ هذا العنوان لم يعد مستخدمًا.",
  },
};
export const contactLetter = (language: string): Wording =>
  contactLetters[mainLanguage(language)] ?? contactLetters["en"]!;
/** Goes to whose account somebody keeps trying passwords for. */
export const triedLetter: Wording = {
  subject: "Somebody tries to sign in as you",
  body: "Hello {{practitioner.name}},\n\nsomebody has typed many wrong passwords for your account at {{practice.name}}. Nobody got in. Devices you signed in on before are not held up by it; on others you may have to wait up to a quarter of an hour.\n\nIf that was not you, sign in and turn on the second factor:\n{{link}}",
};
/** Goes to owners and to whose client it is when a colleague opens a client who is not theirs; who it is stands in the app. */
export const openedLetter: Wording = {
  subject: "A client was opened by a colleague",
  body: "Hello {{practitioner.name}},\n\na colleague opened a client who is not theirs, and gave a reason. Sign in to {{practice.name}} to see who, whom and why:\n{{link}}",
};
/** Goes to owners who wish it each day; `{{anchor}}` is put in before it is filled. */
export const anchorLetter: Wording = {
  subject: "Where the journal of {{practice.name}} stands",
  body: "Hello {{practitioner.name}},\n\nkeep this letter. Should anybody ever change or cut the journal, it no longer goes through this line:\n\n{{anchor}}\n\nOffice, Journal checks it, now or in years:\n{{link}}",
};
/** Goes to a new colleague: with its link they set their own password. */
export const inviteLetter: Wording = {
  subject: "Your place at {{practice.name}}",
  body: "Hello {{practitioner.name}},\n\n{{practice.name}} works with Kind Ledger, and there is a place for you in it. Choose your password here:\n{{link}}\n\nThe link works once, for seven days.",
};
/** Goes to whoever forgot their password, when it was asked for. */
export const resetLetter: Wording = {
  subject: "Choose a new password",
  body: "Hello {{practitioner.name}},\n\nsomebody, perhaps you, asked for a new password for your account at {{practice.name}}. Choose it here:\n{{link}}\n\nThe link works once, for an hour. If it was not you, do nothing: your password stays as it is.",
};
/** Goes to who asks for it, to see that letters arrive. */
export const tryOutLetter: Wording = {
  subject: "A letter from {{practice.name}}",
  body: "Hello {{practitioner.name}},\n\nthis is the letter you asked for. Letters leave {{practice.name}} and arrive:\n{{link}}",
};
/** Letters to staff that bring a link to set a password with: whoever has it can sign in as them. */
export const ticketPurposes = ["invite", "reset"] as const satisfies readonly PostPurpose[];
/** What a message in the Post room is for. */
export type PostPurpose =
  | "try-out"
  | "invite"
  | "reset"
  | "tried"
  | "opened"
  | "anchor"
  | "alert"
  | "bounced"
  | "packet"
  | "nudge"
  | "sent-back"
  | "sign"
  | "signed"
  | "take-home"
  | "contact"
  | "code"
  | "locked"
  | "test";
/** Letters that bring somebody the link of a packet. */
export const linkPurposes = [
  "packet",
  "nudge",
  "sent-back",
  "sign",
  "signed",
  "take-home",
] as const satisfies readonly PostPurpose[];

export type WordingProblem = { readonly field: "subject" | "body"; readonly message: string };
/**
 * Whether a practice's own wording can be sent: it says what it must, names only what is known then, and a mail has a
 * subject.
 */
export function checkWording(kind: LetterKind, way: "email" | "text", wording: Wording): Result<null, WordingProblem> {
  if (way === "email" && wording.subject.trim() === "")
    return fail({ field: "subject", message: "A mail needs a subject." });
  if (wording.body.trim() === "") return fail({ field: "body", message: "Write what the message says." });
  const known = placeholdersFor(kind);
  const filled = fillWording(wording, Object.fromEntries(known.map((p) => [p, p])), [mustHave(kind)]);
  if (filled.ok) return ok(null);
  const { error } = filled;
  if (error.reason === "missing")
    return fail({ field: "body", message: `Without {{${error.names[0]}}} the message is of no use. Put it in.` });
  const inSubject = error.names.some((n) => wording.subject.includes(n));
  return fail({
    field: inSubject ? "subject" : "body",
    message: `{{${error.names[0]}}} is not known here. Known are: ${known.map((p) => `{{${p}}}`).join(", ")}.`,
  });
}
/** What stands for each placeholder where a wording is looked at without a person. */
export const sampleValues: Readonly<Record<Placeholder, string>> = {
  "client.firstName": "Ines",
  "recipient.firstName": "Ines",
  "practitioner.name": "Maren Holloway",
  "visit.when": "Wednesday 25 November at 11:00",
  link: "https://rooms.example/p/q7Yd2mPz0aVtLx3kWcRn8sHb5eJf1uGo",
  expires: "9 December",
  door: "We will send you a code by e-mail first, to be sure it is you.",
  about: "",
  "practice.name": "Fernhollow Care Rooms",
  code: "482915",
};
