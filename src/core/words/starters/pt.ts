import type { StarterWords } from "../pieces";

const STOP = "Responda STOP para não receber mais.";

export const PT: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Olá {first name|}, como correu a visita {about|} à {business}? Diga-nos com um toque: {link} ${STOP}`,
      subject: "Como correu na {business}?",
      email:
        "Olá {first name|},\n\nobrigado por vir à {business}, {branch}. Como correu a visita {about|}?\n\n{link}\n\nBasta um toque, e lemos todas as respostas.\n\n{team member|A equipa}, {business}",
    },
    "first.job": {
      text: `Olá {first name|}, ontem estivemos em sua casa. Está tudo como queria? {business}: {link} ${STOP}`,
      subject: "Está tudo como queria?",
      email:
        "Olá {first name|},\n\nontem {team member|um de nós} esteve em sua casa. Está tudo como queria?\n\n{link}\n\nBasta um toque. Se algo não está bem, gostaríamos de ser os primeiros a saber.\n\n{business}",
    },
    "first.order": {
      text: `Olá {first name|}, a sua encomenda da {business} já deve ter chegado. Está como esperava? {link} ${STOP}`,
      subject: "A sua encomenda está como esperava?",
      email:
        "Olá {first name|},\n\na sua encomenda da {business} já deve ter chegado. Está como esperava?\n\n{link}\n\nBasta um toque. Se falta algo ou algo está partido, diga-nos e resolvemos.\n\n{business}",
    },
    "first.stay": {
      text: `Olá {first name|}, obrigado pela estadia na {business}. Como foi? {link} ${STOP}`,
      subject: "Como foi a sua estadia na {business}?",
      email:
        "Olá {first name|},\n\nobrigado por ficar connosco. Como foi, da chegada à partida?\n\n{link}\n\nBasta um toque, e lemos todas as respostas.\n\n{business}",
    },
    "first.lessons": {
      text: `Olá {first name|}, como vão as aulas {about|} na {business}? Diga-nos com um toque: {link} ${STOP}`,
      subject: "Como vão as aulas {about|}?",
      email:
        "Olá {first name|},\n\ncomo vão as aulas {about|}? {team member|A equipa} gostava de saber:\n\n{link}\n\nBasta um toque, e ajuda-nos a ensinar melhor.\n\n{business}",
    },
    "first.invoice": {
      text: `Olá {first name|}, obrigado da parte da {business}. Como correu a visita {about|}? {link} ${STOP}`,
      subject: "Obrigado da parte da {business}",
      email:
        "Olá {first name|},\n\nobrigado, recebemos o seu pagamento. Podemos perguntar como correu a visita {about|}?\n\n{link}\n\n{team member|A equipa}, {business}",
    },
    second: {
      text: `Olá {first name|}, na {business} ainda gostávamos de saber como foi: {link} ${STOP}`,
      subject: "{first name|Bom dia}, umas palavras sobre a sua visita?",
      email:
        "Olá {first name|},\n\nhá uns dias esteve connosco, {branch}. Se tiver um momento, diga-nos como foi, bem ou mal:\n\n{link}\n\nNão voltamos a escrever sobre esta visita.\n\n{business}",
    },
    reawaken: {
      text: `Olá {first name|}, há algum tempo esteve na {business}. Contaria a outros como foi? {link} ${STOP}`,
      subject: "Lembra-se da {business}?",
      email:
        "Olá {first name|},\n\njá passou algum tempo desde a sua visita à {business}. Umas palavras de quem nos conhece ajudam mais do que tudo o que possamos dizer:\n\n{link}\n\nSó perguntamos uma vez. Se precisar de nós de novo, basta responder a este email.\n\n{business}",
    },
    "put-right": {
      text: `Olá {first name|}, daqui {business}. Esperamos que já esteja resolvido. Está? {link} ${STOP}`,
      subject: "Já está resolvido?",
      email:
        "Olá {first name|},\n\ndisse-nos que algo não correu bem, e tentámos resolver. Conseguimos?\n\n{link}\n\nSeja o que for que diga, lemos, e não voltaremos a perguntar sobre isto.\n\n{business}",
    },
    feeling: {
      text: `Olá {first name|}, correu bem a visita {about|} à {business}? Sim: {good link} Nem por isso: {bad link} ${STOP}`,
      subject: "Correu tudo bem na {business}?",
      email:
        "Olá {first name|},\n\ncorreu bem a visita {about|}?\n\n{good link}\n\n{bad link}\n\nBasta um toque.\n\n{team member|A equipa}, {business}",
    },
    review: {
      text: `Olá {first name|}, ainda bem que correu bem. Contaria a outros em duas frases? {link} ${STOP}`,
      subject: "Contaria a outros?",
      email:
        "Olá {first name|},\n\ndisse-nos que a visita {about|} correu bem. Obrigado. Contaria também a outros? Duas frases ajudam a escolher:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Olá {first name|}, se tiver um minuto: duas frases sobre a {business} ajudavam outros a escolher. {link} ${STOP}`,
      subject: "Duas frases sobre a {business}?",
      email:
        "Olá {first name|},\n\nse tiver um minuto esta semana, duas frases sobre a {business} ajudavam outros a escolher:\n\n{link}\n\nNão voltamos a escrever sobre isto.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Como correu a visita {about|}?",
    "question.job": "Como correu o trabalho {about|}?",
    "question.order": "Como correu a encomenda {about|}?",
    "question.stay": "Como foi a estadia {about|}?",
    "question.lessons": "Como correu a aula {about|}?",
    "question.member": "Como correu com {team member|a nossa equipa}?",
    "two.appointment": "Correu bem a visita {about|}?",
    "two.job": "Correu bem o trabalho {about|}?",
    "two.order": "Correu bem a encomenda {about|}?",
    "two.stay": "Correu bem a estadia {about|}?",
    "two.lessons": "Correu bem a aula {about|}?",
    "two.member": "Correu bem com {team member|a nossa equipa}?",
    below: "Basta um toque, {first name|}. Depois pode acrescentar umas palavras.",
    happy: "Ficamos contentes por saber.",
    "happy.invite": "Duas frases ajudam outros a escolher.",
    "happy.prompt": "Algo que prefira dizer-nos em privado?",
    unhappy: "Lamentamos que não tenha sido melhor.",
    "unhappy.prompt": "O que devemos corrigir?",
    "thanks.happy": "Obrigado pelas suas palavras.",
    "thanks.unhappy": "Obrigado por nos dizer. Vamos tratar disso.",
    "thanks.site": "Obrigado, ajuda-nos muito.",
    "thanks.later": "Obrigado, é bom saber.",
    "thanks.would": "Obrigado, sobretudo por nos recomendar.",
    "thanks.undecided": "Obrigado. Vamos pensar no que falta.",
    "thanks.wouldnot": "Obrigado por dizê-lo com franqueza. Levamos isso a sério.",
    picture: "Obrigado, {first name|}!",
  },
};
