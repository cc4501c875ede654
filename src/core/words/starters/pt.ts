import type { StarterWords } from "../pieces";

const STOP = "Para sair, responda STOP.";

export const PT: StarterWords = {
  messages: {
    "first.appointment": {
      text: `{first name|Bom dia}, daqui {business}. Como correu a visita {about|}? Responda com um clique: {link} ${STOP}`,
      subject: "Como correu a sua visita a {business}?",
      email:
        "Olá {first name|},\n\nObrigado por visitar {business}, {branch|}. Como correu a visita {about|}?\n\n{link}\n\nBasta um clique, e lemos todas as respostas.\n\n{team member|A equipa}, {business}",
    },
    "first.job": {
      text: `{first name|Bom dia}, daqui {business}. Como correu o trabalho de ontem? Ficou tudo como queria? {link} ${STOP}`,
      subject: "Ficou tudo como queria?",
      email:
        "Olá {first name|},\n\nOntem {team member|a nossa equipa} esteve consigo. Ficou tudo como queria?\n\n{link}\n\nBasta um clique. Se alguma coisa não está bem, gostávamos de saber.\n\n{business}",
    },
    "first.order": {
      text: `{first name|Bom dia}, daqui {business}. A sua encomenda deve ter chegado. Era o que esperava? {link} ${STOP}`,
      subject: "A sua encomenda é o que esperava?",
      email:
        "Olá {first name|},\n\nA sua encomenda de {business} já deve ter chegado. É o que esperava?\n\n{link}\n\nBasta um clique. Se faltar alguma coisa ou se algo vier danificado, diga-nos e resolvemos.\n\n{business}",
    },
    "first.stay": {
      text: `{first name|Bom dia}, daqui {business}. Obrigado por ficar connosco. Como foi a estadia? {link} ${STOP}`,
      subject: "Como foi a sua estadia em {business}?",
      email:
        "Olá {first name|},\n\nObrigado por ficar connosco. Como foi a estadia, do princípio ao fim?\n\n{link}\n\nBasta um clique, e lemos todas as respostas.\n\n{business}",
    },
    "first.lessons": {
      text: `{first name|Bom dia}, daqui {business}. Como correm as aulas {about|}? Responda com um clique: {link} ${STOP}`,
      subject: "Como estão a correr as aulas {about|}?",
      email:
        "Olá {first name|},\n\nComo estão a correr as aulas {about|}? {team member|A nossa equipa} gostava de saber:\n\n{link}\n\nBasta um clique, e ajuda-nos a ensinar melhor.\n\n{business}",
    },
    "first.invoice": {
      text: `{first name|Bom dia}, obrigado. Daqui {business}. Como correu a visita {about|}? {link} ${STOP}`,
      subject: "Obrigado da parte de {business}",
      email:
        "Olá {first name|},\n\nObrigado, recebemos o seu pagamento. Como correu a visita {about|}?\n\n{link}\n\n{team member|A equipa}, {business}",
    },
    second: {
      text: `{first name|Bom dia}, daqui {business}. Pode dizer-nos como correu? {link} ${STOP}`,
      subject: "{first name|Bom dia}, como correu a sua visita?",
      email:
        "Olá {first name|},\n\nVisitou-nos há uns dias ({branch|}). Se tiver um momento, diga-nos como correu, bem ou mal:\n\n{link}\n\nNão voltamos a perguntar sobre esta visita.\n\n{business}",
    },
    reawaken: {
      text: `{first name|Bom dia}, daqui {business}. Lembra-se da sua visita? Conte a outras pessoas como foi: {link} ${STOP}`,
      subject: "Lembra-se de {business}?",
      email:
        "Olá {first name|},\n\nJá passou algum tempo desde a sua visita a {business}. Umas palavras de quem nos conhece ajudam mais do que tudo o que possamos dizer:\n\n{link}\n\nSó perguntamos uma vez. Se voltar a precisar de nós, basta responder a este email.\n\n{business}",
    },
    "put-right": {
      text: `{first name|Bom dia}, daqui {business}. Esperamos que esteja tudo resolvido. Ficou bem? {link} ${STOP}`,
      subject: "{first name|Bom dia}, ficou tudo resolvido?",
      email:
        "Olá {first name|},\n\nDisse-nos que algo não correu bem, e tentámos resolver. Conseguimos?\n\n{link}\n\nLemos todas as respostas, e não voltamos a perguntar sobre isto.\n\n{business}",
    },
    feeling: {
      text: `{first name|Bom dia}, daqui {business}. Correu bem a visita {about|}? Sim: {good link} Nem por isso: {bad link} ${STOP}`,
      subject: "Correu tudo bem em {business}?",
      email:
        "Olá {first name|},\n\nCorreu bem a visita {about|}?\n\n{good link}\n\n{bad link}\n\nBasta um clique.\n\n{team member|A equipa}, {business}",
    },
    review: {
      text: `{first name|Bom dia}, ainda bem que correu bem. Quer contar a outras pessoas em duas frases? {link} ${STOP}`,
      subject: "Quer partilhar com outras pessoas?",
      email:
        "Olá {first name|},\n\nObrigado por nos dizer que a visita {about|} correu bem. Quer partilhar também com outras pessoas? Uma ou duas frases ajudam a escolher:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `{first name|Bom dia}, daqui {business}. Se tiver um minuto, duas frases suas ajudam outros a escolher: {link} ${STOP}`,
      subject: "Uma ou duas frases sobre {business}?",
      email:
        "Olá {first name|},\n\nSe tiver um minuto esta semana, uma ou duas frases sobre {business} ajudam outras pessoas a escolher:\n\n{link}\n\nNão voltamos a escrever sobre isto.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "Como correu a visita {about|}?",
    "question.job": "Como correu o trabalho {about|}?",
    "question.order": "O que achou da encomenda {about|}?",
    "question.stay": "Como foi a estadia {about|}?",
    "question.lessons": "Como correu a aula {about|}?",
    "question.member": "Como correu com {team member|a nossa equipa}?",
    "two.appointment": "Correu bem a visita {about|}?",
    "two.job": "Correu bem o trabalho {about|}?",
    "two.order": "Está tudo bem com a encomenda {about|}?",
    "two.stay": "Correu bem a estadia {about|}?",
    "two.lessons": "Correu bem a aula {about|}?",
    "two.member": "Correu bem com {team member|a nossa equipa}?",
    below: "Basta um clique, {first name|}. Depois pode deixar um comentário.",
    happy: "Ficamos contentes por saber.",
    "happy.invite": "Uma ou duas frases ajudam outras pessoas a escolher.",
    "happy.prompt": "Há alguma coisa que prefira dizer-nos em privado?",
    unhappy: "Lamentamos que não tenha sido melhor.",
    "unhappy.prompt": "O que podemos corrigir?",
    "thanks.happy": "Obrigado pelo seu comentário.",
    "thanks.unhappy": "Obrigado por nos dizer. Vamos ver o que se passou.",
    "thanks.site": "Obrigado, ajuda-nos muito.",
    "thanks.later": "Obrigado, é bom saber.",
    "thanks.would": "Obrigado, sobretudo por nos recomendar.",
    "thanks.undecided": "Obrigado. Vamos pensar no que podemos melhorar.",
    "thanks.wouldnot": "Obrigado pela franqueza. Levamos isso a sério.",
    picture: "Obrigado, {first name|}",
  },
};
