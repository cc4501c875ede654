import { type Clause, type Lexicon, rulesOf, type Signs } from "./reading";
import { SPANISH_SCENES } from "./spanishScenes";
import type { Theme } from "./themes";

/** How people name things in Spanish reviews: word lists and patterns of our own, for clauses in small letters without accents. */

const BUENO =
  "(?:buen[oa]?s?|excelentes?|genial(?:es)?|estupend[oa]s?|fantastic[oa]s?|magnific[oa]s?|perfect[oa]s?|maravillos[oa]s?|impecables?|fenomenal(?:es)?|increibles?|inmejorables?|exquisit[oa]s?|agradables?|espectacular(?:es)?|super)";
const MALO =
  "(?:mal[oa]?s?|pesim[oa]s?|horribles?|fatal(?:es)?|terribles?|lamentables?|deficientes?|nefast[oa]s?|penos[oa]s?|desastros[oa]s?|deplorables?|vergonzos[oa]s?)";

const SIGNS: Record<Theme, Signs> = {
  waiting: {
    named: ["(?:la |las )?esperas?\\b(?! el| la| los)", "puntualidad"],
    happy: [
      "puntual(?:es|idad)?",
      "a (?:la hora|su hora|tiempo)\\b",
      "(?:atendieron|atendid[oa]s?|pasaron|recibieron|vieron|llamaron|entramos|pasamos) (?:\\w+ )?(?:enseguida|rapido|rapidamente|al momento|al instante|inmediatamente|en seguida|a la hora|pronto)",
      "(?:sin|ninguna|apenas|nada de) (?:\\w+ )?(?:esperas?|esperar|colas?|retrasos?|demoras?)",
      "(?:no|sin) (?:tuvimos|tuve|hubo|hay|tener|tener) (?:que )?(?:esperar|hacer cola|esperas?|cola|colas)",
      "(?:servicio|atencion|trato) (?:muy )?rapid[oa]",
      "rapidez",
      "muy rapid[oa]s?",
      "antes de (?:la hora|lo previsto)",
    ],
    unhappy: [
      "(?:esper|esperando|espere|esperamos|esperar|espera)\\w*.{0,30}(?:hora|horas|minutos|rato|muchisimo|mucho|eternidad|siglos?)",
      "(?:hora|horas|minutos|rato|eternidad)\\b.{0,30}(?:espera|esperando|esperar|sala|cola)",
      "(?:con|mucho|muchos|gran|siempre|llevaban|llego|llegaron|lleg\\w+) (?:\\w+ )?(?:retraso|retrasos|tarde|demora)",
      "(?:retraso|demora|tardanza|impuntual(?:es|idad)?)",
      "(?:van|iban|llegan|llegaron|llego|vino|vinieron|empezo|empezaron) (?:\\w+ )?(?:tarde|tardisimo|con retraso)",
      "(?:hicieron|hacen|hizo) esperar",
      "lent[oa]s?\\b|lentitud",
      "(?:tardan|tardaron|tardo|tarda)\\b(?: \\w+){0,3} (?:mucho|muchisimo|siglos|horas?|demasiado|una eternidad|en atender)",
      "(?:mucha|demasiada|larga|eterna) (?:espera|cola)",
      "(?:espera|cola) (?:\\w+ )?(?:larga|eterna|interminable|insoportable)",
    ],
  },
  price: {
    named: ["(?:precios?|presupuestos?|facturas?|tarifas?|coste|costes|cuenta)\\b"],
    happy: [
      "(?:calidad|relacion)[- ]precio",
      "barat[oa]s?|economic[oa]s?|asequibles?",
      `(?:${BUENO.slice(3, -1)}|razonables?|just[oa]s?|ajustad[oa]s?|competitiv[oa]s?|honest[oa]s?) precios?`,
      `(?:precios?|tarifas?|cuenta|coste|presupuesto) (?:\\w+ ){0,3}(?:${BUENO.slice(3, -1)}|razonables?|just[oa]s?|ajustad[oa]s?|competitiv[oa]s?|asequibles?|correct[oa]s?)`,
      "(?:vale|merece|valio) (?:\\w+ )?(?:la pena|cada euro|lo que)",
      "(?:cobraron|cobro|pague|cuesta|costo) (?:justo|exactamente|lo mismo|lo que|menos|poco|solo)",
      "sin (?:sorpresas|sustos|recargos|cargos extra)",
      "(?:nada|no (?:es|fue|son|salio) (?:nada )?) ?(?:car[oa]s?)",
      "gratis|no me cobraron",
    ],
    unhappy: [
      "car[oa]s?\\b(?! de)|carisim[oa]s?",
      "(?:factura|precio|cuenta|cobraron|cobrar|presupuesto).{0,24}(?:doble|triple|mas de lo|mas que)",
      "(?:doble|triple) (?:de |del )",
      "(?:cobraron|cobran|cobro|cargaron|cobrarme)\\b.{0,30}(?:no pedi|no hicieron|de mas|dos veces|extra|sin avisar|cosas|no tocaba)",
      "(?:subido|subieron|suben|subio|han subido) (?:\\w+ )?(?:los |las )?(?:precios?|tarifas?|cuotas?)",
      "(?:abuso|robo|atraco|estafa|clavada|clavaron|sablazo|dineral|barbaridad)\\b",
      "precios? (?:\\w+ )?(?:abusiv[oa]s?|desorbitad[oa]s?|excesiv[oa]s?|alt[oa]s?|elevad[oa]s?|car[oa]s?)",
      "(?:abusiv[oa]s?|desorbitad[oa]s?)",
      "demasiado (?:dinero|car[oa])|mucho dinero",
    ],
  },
  explanation: {
    happy: [
      "explic\\w+",
      "(?:aclar(?:aron|o|a|an|ado)|resolvi(?:o|eron)|resuelven|resolver|contest(?:aron|o|an)|respondi(?:o|eron)) (?:\\w+ ){0,2}(?:dudas?|preguntas?)",
      "(?:conto|contaron|cuentan|informo|informaron|informan|detallo|detallaron) (?:\\w+ ){0,3}(?:todo|paso|bien|detalle|claro|de todo)",
      "con (?:todo )?detalle|paso a paso",
      "(?:hablan|habla|hablaron|todo|muy|bastante|quedo) (?:muy )?clar[oa]s?\\b",
      "claridad",
      "(?:entendi|entiendo|entendimos) (?:\\w+ )?(?:por fin|todo|que|perfectamente|bien|al fin)",
      "bien informad[oa]s?",
      "(?:me|nos) (?:dijo|dijeron|enseno|ensenaron|mostro|mostraron) (?:\\w+ )?(?:que|como|por que|lo que)\\b(?!.{0,12}(?:no hacia falta|podia esperar))",
    ],
    unhappy: [
      "(?:nadie|nunca|no|ni)(?: \\w+){0,2} (?:dijo|dijeron|explic\\w+|informo|informaron|contaron|aclar\\w+)\\b(?! (?:hola|perdon))",
      "(?:con|mas|muchas|tengo) (?:\\w+ )?dudas(?: que)?",
      "(?:sin|ninguna|poca|nada de|no me dieron|falta de) (?:\\w+ )?(?:explicaciones?|informacion|respuestas?)",
      "no (?:quedo|queda|me quedo|nos quedo|esta|fue) (?:nada )?clar[oa]",
      "no (?:entendi|entiendo|entendimos)",
      "poco clar[oa]s?|confus[oa]s?",
      "no se (?:todavia |aun )?(?:que|para que|por que)",
    ],
  },
  kindness: {
    happy: [
      "amab(?:le|les|ilidad|ilisim[oa]s?)",
      "(?:trato|atencion) (?:\\w+ ){0,3}(?:excelente|exquisit[oa]|cercan[oa]|buen[oa]?|amable|inmejorable|fantastic[oa]|genial|human[oa]|familiar|impecable|de 10|de diez|maravillos[oa]|perfect[oa]|personalizad[oa]|correct[oa])",
      "(?:buen|excelente|gran|mejor|inmejorable|exquisito|un|magnifico) (?:trato|atencion)\\b(?! (?:fatal|horrible|pesim[oa]|mal[oa]|despectivo|nefast[oa]))",
      "encantador(?:a|es|as)?|simpatic[oa]s?|maj[oa]s?|carinos[oa]s?|atent[oa]s?|educad[oa]s?|cordial(?:es)?|acogedor(?:a|es|as)?|cercan[oa]s?|agradables?|respetuos[oa]s?|pacientes?\\b|entranables?",
      "(?:mucha|con|gran|tanta|toda la|infinita) paciencia",
      "(?:con|mucho|todo el|gran) (?:carino|respeto|mimo)",
      "(?:siempre|con una|una|muchas) sonrisas?",
      "(?:nos|me) (?:trataron|atendieron|trato|atendio|recibieron|tratan|atienden) (?:\\w+ )?(?:genial|bien|estupendamente|de maravilla|muy bien|fenomenal|fantastico|como en casa|como reyes|con)",
      "como en casa",
    ],
    unhappy: [
      "maleducad[oa]s?|mal educad[oa]s?|groser[oa]s?|bordes?\\b|antipatic[oa]s?|desagradables?|prepotentes?|soberbi[oa]s?|altiv[oa]s?|secos?\\b|irrespetuos[oa]s?|arrogantes?",
      "de mal(?:as|os)? (?:maneras|modos|humor|formas|gana)",
      "malos modales|mala educacion|falta de respeto|mal genio",
      "(?:nos|me) (?:trataron|atendieron|trato|atendio|hablaron|hablo|tratan|hablan) (?:\\w+ )?(?:fatal|mal|muy mal|de pena|con desprecio|como (?:a )?(?:un|basura|idiotas?|tont[oa]s?|ninos?))",
      `(?:trato|atencion) (?:\\w+ ){0,3}(?:${MALO.slice(3, -1)}|despectiv[oa]|frio|fria)`,
      `(?:${MALO.slice(3, -1)}) (?:trato|atencion)`,
      "ni (?:una sonrisa|hola|buenos dias|saludan?|saludaron)",
      "(?:grit(?:o|aron|an|a)|chill(?:o|aron))\\b",
      "poc[oa] (?:amables?|simpatic[oa]s?|paciencia|tacto)",
      "nos ignoraron|me ignoraron|pasaron de (?:nosotros|mi)",
    ],
  },
  result: {
    named: ["(?:el |un |su )(?:trabajo|resultado|arreglo|acabado)\\b"],
    happy: [
      "(?:funciona|va|anda|suena|corta|arranca) (?:\\w+ ){0,2}(?:perfect\\w*|de maravilla|muy bien|bien|genial|como nuev[oa]|estupend\\w*|mejor|fenomenal)",
      "como nuev[oa]s?",
      "(?:recuperad[oa]s?|curad[oa]s?|recupero|curo|mejor que nunca)",
      "aprob(?:e|o|amos|ado) (?:\\w+ )?(?:a la primera|el|la|todo)",
      `(?:trabajo|resultado|arreglo|acabado|reparacion) (?:\\w+ ){0,2}(?:${BUENO.slice(3, -1)}|de 10|de diez|bien hecho|fino)`,
      `(?:${BUENO.slice(3, -1)}|gran|mejor) (?:trabajo|resultado|acabado|arreglo|profesional(?:es)?)`,
      "(?:arregl(?:o|aron|ado)|solucion(?:o|aron|ado)|repar(?:o|aron|ado))\\b(?: \\w+){0,3} (?:problema|todo|averia|enseguida|rapido|perfect\\w*|bien|primera)",
      "(?:content[oa]s?|satisfech[oa]s?|encantad[oa]s?) con (?:el |la |los )?(?:resultado|trabajo|arreglo|como)",
      "ya no (?:gotea|suena|duele|hace|pierde|tira)",
      "(?:quedo|quedaron|ha quedado) (?:\\w+ )?(?:genial|perfect[oa]s?|muy bien|precios[oa]s?|estupend[oa]s?|fenomenal|fantastic[oa]|de lujo|bonit[oa]s?)",
    ],
    unhappy: [
      "(?:volvio|volvieron|vuelve|ha vuelto) a (?:\\w+ )?(?:estropear\\w*|romper\\w*|fallar|gotear|averiar\\w*|pasar|salir)",
      "(?:sigue|siguen|seguia) (?:\\w+ )?(?:goteando|fallando|rot[oa]|igual|haciendo ruido|sin funcionar|mal|sonando|estropead[oa]|cojeando)",
      "no (?:sirvio|sirve|funciona|funciono|valio|arregl\\w+|solucion\\w+|duro|noto)\\b(?: (?:de|para) nada| nada| mejoria)?",
      "(?:esta|estaba|va|quedo|quedado|es) (?:mucho )?peor",
      "peor que (?:antes|nunca)",
      "chapuz(?:a|as|ero|eros)",
      `(?:trabajo|resultado|arreglo|acabado|reparacion) (?:\\w+ ){0,2}(?:${MALO.slice(3, -1)}|mal hecho)`,
      `(?:${MALO.slice(3, -1)}) (?:trabajo|resultado|acabado|arreglo)`,
      "mal hech[oa]s?",
      "(?:se )?(?:rompio|estropeo|averio) (?:\\w+ )?(?:a los|otra vez|de nuevo|al dia|a la semana|en)",
      "suspend(?:i|io|imos)\\b",
      "tuv(?:e|imos) que (?:llamar|buscar|pagar) a otr[oa]",
    ],
  },
  booking: {
    named: ["(?:cita|citas|reserva|reservas|telefono|web|pagina web|aplicacion)\\b(?! (?:el|la|los))"],
    happy: [
      "(?:dieron|dio|dan|daban|consegui|tuve|conseguimos) (?:\\w+ )?(?:cita|hora|hueco|turno)\\b.{0,24}(?:siguiente|mismo|enseguida|rapido|pronto|manana|hoy|en el dia)",
      "(?:facil|sencillo|comodo|rapido) (?:de )?(?:reservar|pedir cita|pedir hora|contactar|coger cita|concertar)",
      "(?:reservar|pedir cita|reserva|cita)\\b.{0,20}(?:facil|sencillo|comodo|rapid[oa]|en un minuto)",
      "(?:cogen|contestan|responden|atienden|cogieron|contestaron) (?:\\w+ ){0,3}(?:a la primera|enseguida|rapido|siempre|al momento)",
      "(?:cambiaron|cambiar|cambio|movieron) (?:\\w+ ){0,4}sin (?:problemas?|pegas|ningun)",
      "(?:hicieron|hizo|buscaron|encontraron) (?:\\w+ )?(?:un )?hueco",
      "flexib(?:les?|ilidad)",
      "recordatorios? (?:\\w+ ){0,3}(?:util|bien|genial|practico)",
    ],
    unhappy: [
      "(?:no|nadie|nunca|ni|imposible|manera)(?: \\w+){0,5} (?:coge|cogen|cojan|coja|contesta|contestan|contestaron|contesto|responde|responden|respondieron|descuelgan?|atienden)\\b(?!.{0,10}(?:dudas|preguntas))",
      "(?:anul(?:aron|o|ada|an)|cancel(?:aron|o|ada|an|adas)|cambiaron|cambian|retrasaron|movieron)\\b(?: \\w+){0,4} (?:cita|hora|clase|clases|visita|ultima hora|sin avisar|reserva)",
      "a ultima hora",
      "(?:perdido|perdieron|no encontraban|no tenian|no constaba|no les constaba)\\b(?: \\w+){0,2} (?:reserva|cita)",
      "(?:no (?:dan|hay|daban|tienen)|imposible) (?:\\w+ )?(?:hora|cita|citas|hueco)\\b",
      "(?:imposible|dificil|complicado) (?:de )?(?:reservar|contactar|pedir|conseguir cita|conseguir hora|hablar|localizar)",
      "(?:contestador|comunicando|comunica siempre)",
      "(?:web|aplicacion|pagina|formulario)\\b.{0,20}(?:no funciona|no va|falla|desastre|no deja)",
      "doble reserva",
    ],
  },
  cleanliness: {
    named: ["(?:limpieza|higiene)\\b"],
    happy: [
      "limpi(?:o|a|os|as|isim[oa]s?|aron|o todo)\\b",
      "(?:muy|todo|bien|super|siempre) (?:limpi|orden|recog)\\w+",
      "reluciente|impolut[oa]s?|higienic[oa]s?|como los chorros|pulcr[oa]s?",
      "(?:dejaron|dejo|dejan) (?:\\w+ ){0,3}(?:recogid[oa]|limpi[oa]|ordenad[oa]|impecable|como una patena)",
      "(?:olia|huele|olian) (?:\\w+ )?(?:bien|a limpio|genial)",
      "sin (?:ensuciar|manchar|una mota)",
    ],
    unhappy: [
      "suci[oa]s?|suciedad|mugre|mugrient[oa]s?|guarr[oa]s?|cochambros[oa]|pringos[oa]s?|pegajos[oa]s?|asqueros[oa]s?",
      "(?:daba|da|dan|de|un) asco",
      "(?:lleno|llena|llenos|todo|cubiert[oa]) de (?:polvo|barro|pelos?|basura|mierda|hollin|manchas|grasa)",
      "(?:olia|huele|olian|oler) (?:\\w+ )?(?:mal|fatal|raro|a humedad|a cerrado|horrible)|mal olor|peste",
      "poc[oa] (?:limpi[oa]s?|higiene|higienic[oa]s?)",
      "(?:falta|nula|ninguna) (?:de )?(?:limpieza|higiene)",
      "no (?:limpi\\w+|recogi\\w+|barri\\w+)",
    ],
  },
  access: {
    named: ["(?:aparcamiento|parking|acceso|accesos|ubicacion|entrada)\\b"],
    happy: [
      "(?:se aparca|aparcar|aparcamos|aparque) (?:\\w+ )?(?:bien|facil|facilmente|sin problemas?|en la puerta|delante|al lado)",
      "(?:facil|sencillo) (?:de )?(?:aparcar|encontrar|llegar|acceder|acceso)",
      "(?:con|tiene|tienen|buen|gran|amplio|hay) (?:\\w+ )?(?:aparcamiento|parking|rampa|ascensor)\\b(?! (?:siempre|esta|lleno|imposible|muy pequeno))",
      "bien (?:comunicad[oa]|situad[oa]|ubicad[oa]|senalizad[oa]|conectad[oa])",
      "(?:cerca|al lado|a dos minutos|a un paso) (?:de |del )(?:la |el )?(?:metro|parada|estacion|centro|autobus)",
      "(?:centric[oa]|buena ubicacion|accesibles?)\\b",
    ],
    unhappy: [
      "(?:imposible|dificil|complicado|no hay (?:quien|donde|sitio para)|cuesta|problemas? para|horrible|un horror|no se puede) aparcar",
      "(?:no hay|no tiene|no tienen|sin|ni) (?:\\w+ )?(?:ascensor|rampa|aparcamiento|parking|sitio para aparcar|acceso)",
      "(?:cuesta|dificil|imposible|complicado) (?:de )?(?:encontrar|llegar|acceder|entrar)",
      "(?:aparcamiento|parking) (?:\\w+ ){0,3}(?:lleno|pequeno|imposible|diminuto|minusculo|malo|caro|fatal)",
      "(?:demasiadas|muchas|solo) escaleras|escalones|barreras arquitectonicas",
      "mal (?:comunicad[oa]|situad[oa]|senalizad[oa]|ubicad[oa])",
      "(?:me pusieron|nos pusieron|cayo) (?:una )?multa",
      "no (?:cabe|cabia|entra|entraba|pasa) (?:la |el )?(?:silla|carrito|cochecito)",
    ],
  },
  "follow-up": {
    named: ["seguimiento\\b|posventa|postventa"],
    happy: [
      "(?:llamaron|llamo|llaman|escribieron|escribio|mandaron|enviaron|preguntaron|llamada|mensaje)\\b(?: \\w+){0,8} (?:dia siguiente|a la semana|despues|mas tarde|para (?:ver|saber|preguntar|comprobar|interesarse)|al dia|dias despues)",
      "(?:volvio|volvieron|vino|vinieron|vuelve|regreso) (?:\\w+ ){0,3}(?:para |a )(?:comprobar|revisar|ver|asegurar\\w*|mirar)",
      `seguimiento (?:\\w+ ){0,2}(?:${BUENO.slice(3, -1)}|constante|continuo|cercano)|(?:${BUENO.slice(3, -1)}|gran|un) seguimiento`,
      "(?:enviaron|mandaron|dieron|pasaron|envio|mando)\\b(?: \\w+){0,3} (?:resultados?|informe|fotos|analisis|presupuesto)\\b(?: \\w+){0,3} (?:como|el mismo|enseguida|prometi\\w+|puntualmente|al dia)",
      "(?:estuvieron|siempre|muy|han estado) pendientes",
      "(?:mantuvieron|tuvieron|tienen|tenian) (?:\\w+ )?(?:informad[oa]s?|al tanto|al corriente|al dia)",
      "se interesaron por",
    ],
    unhappy: [
      "(?:nunca|nadie|no|jamas)(?: \\w+){0,3} (?:devolvi\\w+|llam(?:o|aron|an|ado)|escribi\\w+|contact(?:o|aron)|volvi(?:o|eron))\\b",
      "(?:no|nunca) (?:supe|supimos|he sabido|hemos sabido|tuve noticias|volvi a saber)",
      "(?:prometi(?:o|eron)|dijeron que|dijo que|quedaron en|iban a)\\b.{0,40}(?:no |nunca |ni )",
      "(?:sigo|seguimos|todavia|aun)(?: \\w+)? esperando",
      "(?:sin|ningun|cero|nulo|nada de) (?:noticias|seguimiento|respuesta)",
      "perseguir(?:los|les|lo)?\\b|insistir mucho",
      "se olvid(?:o|aron) de (?:llamar|enviar|mandar|mi|nosotros)",
      "se desentend\\w+",
      "(?:una vez|despues de|cuando|tras) (?:que )?(?:pag\\w+|cobr\\w+)\\b.{0,30}",
    ],
  },
  damage: {
    happy: [
      "no (?:rompi(?:o|eron)|estrope\\w+|ray\\w+|danaron|perdi\\w+) nada",
      "(?:intact[oa]s?|ni un (?:rasguno|aranazo|golpe|desperfecto)|sin (?:un )?(?:rasguno|desperfectos?|danos?|golpes?|romper|un aranazo))",
      "(?:cuidad[oa]s?|cuidado|cuidaron|protegieron|taparon|cubrieron)\\b(?: \\w+){0,4} (?:muebles?|suelos?|paredes?|cosas|casa|sofa|alfombra)",
      "bien (?:embalad[oa]|protegid[oa]|empaquetad[oa])",
    ],
    unhappy: [
      "(?:ray(?:o|aron|ado|aban)|romp(?:io|ieron)|rot[oa]|estrope(?:o|aron|ado)|dan(?:o|aron|ado)|quem(?:o|aron|ado)|manch(?:o|aron|ado)|aboll(?:o|aron|ado)|destroz(?:o|aron|ado)|encogi(?:o|eron)|descosi\\w+|golpe(?:o|aron|ado))\\b(?! (?:otra vez|de nuevo|a los|al dia|a la semana)) ?(?:el|la|los|las|un|una|mi|mis|nuestr[oa]|al|me|nos)\\b",
      "(?:me|nos) (?:ray|romp|estrope|dan|quem|manch|aboll|destroz|encogi)\\w+",
      "perdi(?:o|eron)\\b(?: \\w+)? (?:mis?|las?|el|los|una?|nuestr[oa]s?) (?!reserva|cita|tiempo|tarde|manana|hora)\\w+",
      "(?:con|tenia|vino con|volvio con|lleg\\w+ con) (?:un |una )?(?:agujero|rasguno|aranazo|golpe|mancha|rotura|abolladura|desperfecto)",
      "(?:vino|volvio|llego|entregaron|devolvieron)\\b(?: \\w+){0,2} (?:rot[oa]|danad[oa]|manchad[oa]|estropead[oa]|rayad[oa])",
    ],
  },
  thoroughness: {
    happy: [
      "a (?:fondo|conciencia)",
      "(?:se )?(?:tom(?:o|aron|an|a)|dedic(?:o|aron)) (?:\\w+ )?(?:su|el|todo el|mucho) tiempo",
      "minucios[oa]s?|meticulos[oa]s?|detallistas?|perfeccionistas?|cuidados[oa]s?\\b|concienzud[oa]s?|profesional(?:es|idad)?\\b",
      "sin (?:prisas?|correr)",
      "(?:cuidan|cuida|cuidaron|cada|todos los|hasta el ultimo|al) detalles?",
      "(?:revis(?:o|aron|an|a)|mir(?:o|aron)|comprob(?:o|aron)) (?:\\w+ )?(?:todo|cada|bien|dos veces)",
      "mas de lo que (?:pedi|esperaba|pedimos)",
    ],
    unhappy: [
      "(?:ni siquiera|ni|apenas|no) (?:\\w+ )?(?:mir(?:o|aron)|revis(?:o|aron)|examin(?:o|aron)|toc(?:o|aron)|ausculto)\\b",
      "(?:con|muchas|tenia|tenian) (?:\\w+ )?prisas?",
      "(?:dejaron|dejo|dejan|faltaba|falto)\\b(?: \\w+){0,3} (?:mitad|sin hacer|a medias|por hacer|sin terminar)",
      "a medias|sin terminar|sin acabar",
      "descuidad[oa]s?|dejad[oa]s? ?$|chapucer[oa]s?|poco profesional(?:es)?|negligen\\w+",
      "(?:en|cinco|dos|tres) (?:\\w+ )?minutos (?:\\w+ )?(?:fuera|listo|despachad[oa]s?|nos echaron)",
      "despach(?:o|aron)\\b",
      "de cualquier manera|deprisa y corriendo|sin ganas",
    ],
  },
  honesty: {
    happy: [
      "honrad[oa]s?|honest[oa]s?|honestidad|honradez|sincer[oa]s?|sinceridad|transparentes?|transparencia|legal(?:es)?\\b|de fiar",
      "(?:de|total|plena|toda|mucha|da|dan|transmite\\w*|inspira\\w*) (?:\\w+ )?confianza",
      "(?:dijo|dijeron|aconsej(?:o|aron)|recomend(?:o|aron))\\b(?: \\w+){0,3} (?:no hacia falta|no era necesario|no lo necesitaba|podia esperar|no merecia)",
      "(?:no|sin|nunca)(?: \\w+){0,2} (?:intent(?:o|aron|ar)|quis(?:o|ieron)|tratar(?:on)?|presion\\w*)(?: de)?(?: \\w+)?(?: vender\\w*)?",
      "reconoci(?:o|eron) (?:su|el|los) (?:error|fallo)",
    ],
    unhappy: [
      "ment(?:i|ir|ira|iras|ieron|irosos?)\\b|mint(?:io|ieron)|enga[nñ]\\w+|tim(?:o|aron|ador\\w*)\\b|estafa\\w*",
      "(?:quer(?:ian|ia)|quis(?:o|ieron)|intent(?:o|aron|an)|trat(?:o|aron) de|empen\\w+ en)\\b(?: \\w+){0,2} ?vender\\w*",
      "(?:invent(?:o|aron|an)|se sacaron) (?:\\w+ )?(?:averias?|problemas?|fallos?|cosas)",
      "presion(?:an|aron|o|aba|aban|es)\\b",
      "(?:no me fio|no nos fiamos|desconfianza|poco de fiar|poca confianza|aprovechad[oa]s?|sinverguenzas?|caraduras?)",
      "solo (?:quieren|les interesa|buscan) (?:\\w+ )?(?:dinero|vender|cobrar)",
    ],
  },
};

export const SPANISH: Lexicon = {
  rules: rulesOf("no|nunca|nada|nadie|sin|ni|jamas", SIGNS, SPANISH_SCENES),
  pleases: new RegExp(
    `\\b(?:${BUENO.slice(3, -1)}|bien|content[oa]s?|encantad[oa]s?|facil|rapid[oa]s?|clar[oa]s?|recomend\\w+|gracias|mejor)\\b`,
    "g",
  ),
  displeases: new RegExp(
    `\\b(?:${MALO.slice(3, -1)}|lent[oa]s?|problemas?|desastre|verguenza|decepcion\\w*|decepcionad[oa]s?|peor|queja|imposible|demasiad[oa]s?)\\b`,
    "g",
  ),
  negates: /^(?:no|nunca|jamas|nadie|nada|ningun|ninguna|ninguno|ni|sin|tampoco|apenas|falta|poco)$/,
  closes: /^(?:pero|aunque|porque|cuando|si|que|quien|como|por|solo)$/,
  wishes:
    /\b(?:podrian? (?:ser|estar|mejorar)|deberian? (?:ser|estar|tener)|estaria bien|ojala|falta(?:ria)? (?:un poco de|algo de)|se agradeceria)\b/,
  wishesAfter: /\b(?:no (?:estaria|vendria) (?:de mas|mal)|no les vendria mal)\b/,
  sayings: /\b(?:por favor|buenos dias a todos|a buen precio de mercado)\b/g,
  takesBack: /^(?:(?:pero |y )?no (?:hubo|fue asi|la hubo)|al contrario|nada de eso|todo lo contrario)$/,
  supposes:
    /(?<!(?:de|que) lo que )\b(?:esperaba|esperabamos|temia|temiamos|me esperaba)\b(?! (?:mas|menos|mejor|algo mejor))/,
};

const TURNS = /^(?:pero|aunque|sin embargo|salvo|excepto|mientras que|eso si|en cambio|no obstante)$/;

/** Spanish text taken apart into clauses: small letters, without accents. */
export function spanishClauses(text: string): Clause[] {
  const clauses: Clause[] = [];
  let [turns, begins] = [false, true];
  // A word, or a mark that ends or parts sentences.
  const tokens = [...text.matchAll(/\d+(?:[.,]\d+)*|[\p{L}\p{M}-]+|[.!?…;:,()\n—–]/gu)];
  let held: { said: string; from: number; to: number }[] = [];
  const close = () => {
    // What joins a clause to the one before is no part of what it says.
    if (held.length > 1 && /^(?:y|e|ademas)$/.test(held[0].said)) held.shift();
    if (held.length > 0) {
      const words = held.map(({ said }) => said).join(" ");
      clauses.push({ words, from: held[0].from, to: held[held.length - 1].to, turns, begins });
      [turns, begins] = [false, false];
    }
    held = [];
  };
  for (const [index, token] of tokens.entries()) {
    const [raw] = token;
    const from = token.index ?? 0;
    if (/^[.!?…;:,()\n—–]$/.test(raw)) {
      close();
      if (/[.!?…\n]/.test(raw)) [turns, begins] = [false, true];
      continue;
    }
    const said = raw.toLocaleLowerCase("es").normalize("NFD").replace(/\p{M}/gu, "");
    if (TURNS.test(said)) {
      close();
      turns = true;
      continue;
    }
    if (/^[ye]$/.test(said) && held.length > 0 && tokens[index + 1]) {
      close();
      continue;
    }
    held.push({ said, from, to: from + raw.length });
  }
  close();
  return clauses;
}
