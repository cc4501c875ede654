import type { Signs } from "./reading";
import type { Theme } from "./themes";

/**
 * What happened, told in Spanish as a scene of kinds of words: who did what to which thing. The theme is nowhere named.
 * For clauses in small letters without accents.
 */

const COSA =
  "(?:coches?|furgoneta|moto|bicis?|bicicletas?|ruedas?|llantas?|paragolpes|pintura|puertas?|marcos?|paredes|pared|techos?|tejas?|tejado|ventanas?|cristal(?:es)?|suelos?|parquet|tarima|alfombras?|sofas?|mesas?|sillas?|armarios?|encimera|muebles?|lavabo|banera|grifos?|tuberias?|cables?|vasos?|platos?|vajilla|jarron(?:es)?|macetas?|espejos?|pantallas?|gafas|camisas?|abrigos?|vestidos?|trajes?|jersey|plantas?|cesped|arboles?|seto|verja|valla|pelo|cuero cabelludo|orejas?|labios?|piel|unas?|baldosas?|azulejos?|casa|piso|movil|ordenador|piano|cajas?|maletero|asientos?)";
const OBRA =
  "(?:pelo|corte|flequillo|puntas|color|mechas|tinte|cejas|pestanas|unas|esmalte|ramos?|flores|rosas|centros?|plantas?|cesped|jardin|seto|arbol(?:es)?|coronas?|empastes?|muelas?|dientes?|fundas?|gafas|lentillas|lentes|cristales|caldera|calefaccion|radiadores|ducha|grifos?|cisterna|tuberias?|desagues?|tejado|chimenea|coche|motor|frenos?|embrague|marchas|cambio|bici|cadena|ruedas?|piano|notas|teclas|enchufes?|luces|luz|cerraduras?|puertas?|ventanas?|estantes?|paredes|pared|suelo|azulejos?|pintura|cocina|bano|alfombras?|sofa|traje|vestido|camisas?|manchas?|reparacion|arreglo|trabajo|rodilla|espalda|cuello|hombro|cadera|tobillo|dolor|perr[oa]|gat[oa]|tarta|pantalla|movil|bateria)";
const TIEMPO =
  "(?:(?:\\d+|una?|dos|tres|cuatro|cinco|seis|media|varias?|hora y|mas de una?|casi una?) )?(?:minutos?|horas?(?: y (?:media|pico|cuarto))?|dias?|semanas?|mes(?:es)?|rato|siglos?|eternidad)";
const EUROS = "(?:\\d[\\d.,]* ?(?:euros?|€|pavos?|pesos?)|(?:\\w+ ){0,2}euros)";

export const SPANISH_SCENES: Record<Theme, Signs> = {
  waiting: {
    happy: [
      "(?:llegar y (?:besar el santo|listo|entrar)|como un reloj|en un (?:periquete|santiamen|momento|plis|abrir y cerrar)|a la hora (?:acordada|prevista|exacta|convenida|en punto)|en punto\\b|visto y no visto|volando\\b|rapidisim[oa]s?|super rapid[oa]s?|con rapidez)",
      "(?:vin(?:o|ieron)|lleg(?:o|aron)|aparec(?:io|ieron)|empez(?:o|aron)|atend(?:io|ieron)|entr(?:e|amos)) (?:\\w+ ){0,3}(?:a la hora|puntual(?:es|mente)?|enseguida|cuando dij\\w+|al momento|antes de (?:la|lo))",
      `en (?:menos de |solo |apenas )?${TIEMPO} (?:\\w+ ){0,3}(?:list[oa]s?|estaba|arreglad[oa]|hech[oa]|fuera|terminad[oa]|lo tenia|la tenia|lo tuve|vinieron|llegaron)`,
      "(?:no (?:tuve|tuvimos|hay|hubo) que (?:esperar|hacer cola)|nunca (?:me|nos) han? hecho esperar|no (?:me|nos) hicieron esperar|sin (?:esperar|esperas|demoras?|colas?|retrasos?)|(?:list[oa]|hech[oa]|arreglad[oa]|terminad[oa]) (?:en|el mismo dia|antes de|al dia siguiente))",
    ],
    unhappy: [
      `${TIEMPO} (?:\\w+ )?(?:esperando|de (?:espera|retraso|demora|cola)|tarde|para (?:que|cambiar|una? \\w+|atender\\w*|un simple))`,
      "(?:lleg\\w+|vin\\w+|empez\\w+|entreg\\w+|trajeron|aparec\\w+)\\b(?: (?!(?:no|nunca) )\\w+){0,4} tarde\\b",
      "(?:cita|citad[oa]s?|quedamos)\\b.{0,24}(?:a las|para las)\\b.{0,30}\\b(?:entr\\w+|atendi\\w+|pas\\w+|a las)",
      "(?:no (?:se )?(?:presentaron|presento|aparecieron|aparecio|vinieron|vino)|(?:nadie|nunca) (?:vino|aparecio|se presento)|cuando por fin|por fin (?:aparecen|vinieron|llegan|llegaron)|nos dejaron plantad[oa]s|me dejaron plantad[oa]|plantad[oa]s? toda)\\b",
      "(?:tard\\w+)\\b(?: \\w+){0,4} (?:semanas?|mes(?:es)?|dias?|horas?|eternidad|vida|siglos?|mas de|demasiado)",
      "(?:la |larg[oa]s? )?esperas? (?:\\w+ ){0,2}(?:fue|es|eterna|interminable|larga|de)|a pesar de la espera|por la espera|con retraso|siempre van? tarde|eternidad|impuntual\\w*|a las tantas|llevo (?:\\w+ )?(?:semanas|meses|dias)",
    ],
  },
  price: {
    happy: [
      "(?:barat(?:ito|ita|itos|itas|isim[oa]s?)|economic[oa]s?|asequibles?|tirado de precio|por cuatro (?:duros|perras)|de ganga|ganga|chollo|buen precio|buenos precios|precio(?:s)? (?:\\w+ )?(?:justos?|buen[oa]s?|ajustad[oa]s?|de risa|imbatibles?|correctos?|razonables?|populares)|calidad[- ]precio)",
      "(?:ajust(?:aron|o|aba|arse)|respet(?:aron|o)|clavad[oa]|cumpli(?:o|eron)) (?:\\w+ ){0,3}(?:presupuesto|precio|acordado)|(?:el )?precio (?:acordado|pactado)|ni un euro (?:mas|de mas)",
      `(?:solo|tan solo|unicamente|me cobr\\w+ solo|por) ${EUROS}`,
      "(?:no (?:me|nos) (?:cobr\\w+|quis\\w+ cobrar)|sin cobrar(?:me|nos)?|gratis|de regalo|me (?:salio|sale) (?:por )?(?:la mitad|menos|muy bien)|mas (?:barat|economic)[oa]s? que)",
      "(?:no (?:es|fue|son|me parecio) (?:nada |tan |muy )?car[oa]s?|merece (?:mucho )?la pena (?:el precio|lo que))",
    ],
    unhappy: [
      "(?:carisim[oa]s?|carer[oa]s?|me clav\\w+|nos clav\\w+|un (?:ojo de la cara|rinon|dineral|pastizal|robo|atraco)|por las nubes|se (?:suben|pasan|han subido) (?:\\w+ ){0,3}(?:parra|tres pueblos|precios?)|vaya (?:robo|clavada|precio|sablazo)|a precio de oro|precios? (?:\\w+ )?(?:abusiv[oa]s?|desorbitad[oa]s?|prohibitiv[oa]s?|exagerad[oa]s?|de escandalo)|poco por (?:lo que|ese)|para lo que (?:es|hacen|te hacen|ofrecen))",
      `${EUROS} (?:por|para) (?:una?|cortar|mirar|cambiar|media|diez|cinco|cuatro|\\w+r)\\b`,
      "presupuest\\w+\\b.{0,30}\\b(?:al final|luego|despues|acab\\w+|doble|mas)\\b|(?:al final|luego) (?:fueron|eran|me cobraron|salio por)",
      "(?:sin avisar|de mas|el doble|cobr\\w+ (?:de mas|por todo|hasta por|un extra|aparte))|(?:no vale|no merece) (?:\\w+ )?(?:lo que|la pena)|mas car[oa]s? que",
    ],
  },
  explanation: {
    happy: [
      "(?:con pelos y senales|paso a paso|todo (?:muy )?clar(?:o|ito)|con palabras (?:sencillas|claras)|sin tecnicismos|al detalle|punto por punto|me (?:entero|entere) de todo)",
      "(?:me|nos|te|le|les) (?:ense(?:no|naron|na|nan)|mostr(?:o|aron)|cont(?:o|aron|ando)|fue(?:ron)? contando|va(?:n)? contando|expli\\w+|acons\\w+|orient\\w+|guio|guiaron)\\b(?! (?:no|que no))(?: \\w+){0,4} ?(?:como|que|a|todo|por que|bien|las|los|el|la)?",
      "(?:contest\\w+|respond\\w+|resolv\\w+|aclar\\w+)\\b(?: \\w+){0,3} (?:dudas?|preguntas?)|(?:buenos|muchos|sabios) consejos|(?:muy|super) (?:claro|clara|didactic[oa]|pedagogic[oa])",
    ],
    unhappy: [
      "(?:sin (?:enterar\\w*|entender|saber|explic\\w+|decir\\w* (?:nada|por que|que))|no (?:me|nos|te|le) (?:entere|enteramos|explic\\w+|dij\\w+ (?:nada|que|por que|como)|aclar\\w+|dejo preguntar|dejaron preguntar|avis\\w+)|ni (?:me|nos) (?:dejo|dejaron) preguntar|no (?:supo|sabian?|supieron|sabe|saben) (?:decir\\w*|explicar\\w*|que|por que)|en vez de explicar|nadie (?:me|nos|te)? ?(?:explic\\w+|dijo|aviso|informo)|no se entiende|hablan? en chino)",
      "(?:cada uno|uno) (?:\\w+ )?(?:dice|decia|dijo) una cosa|(?:poca|nula|cero|ninguna|falta de|sin) (?:informacion|explicacion\\w*|comunicacion)",
    ],
  },
  kindness: {
    happy: [
      "(?:majisim[oa]s?|maj[oa]s?|simpatiquisim[oa]s?|amabilisim[oa]s?|encantador(?:a|es|as)?|un(?:os|as)? (?:encanto|sol|solete|solazo|amor|cielo|crack|cracks|10|diez|angel|angeles|joya|tesoro|soles|amores|encantos)\\b|son un encanto|(?:es|son) (?:\\w+ )?(?:encanto|amor|cielo|maravillos[oa]s?|geniales?|estupend[oa]s?|adorables?|encantador\\w*|un sol|lo mas))",
      "(?:con|mucho|muchisimo|tanto|todo el|gran) (?:\\w+ )?(?:carino|mimo|respeto|ternura|delicadeza|cuidado y carino|empatia)|paciencia (?:\\w+ )?(?:infinita|enorme|de santo|increible)|(?:mucha|infinita|toda la|tanta|una|santa) paciencia|siempre (?:con una|sonriendo|de buen humor|dispuest[oa]s?)|sonrisa\\b|buen (?:humor|rollo|ambiente)",
      "(?:personal|gente|chic[oa]s?|equipo|enfermeras?|enfermeros?|medic[oa]s?|doctor(?:a|es)?|veterinari[oa]s?|dentistas?|recepcionistas?|profe(?:sor(?:a|es)?)?|peluquer[oa]s?|mecanic[oa]s?|tecnic[oa]s?|dependient[ea]s?|trabajadores|todos|todas|duen[oa]s?)\\b(?: (?!(?:no|nada|poco) )\\w+){0,3} (?:amables?|maravillos[oa]s?|encantador\\w*|majos?|majas?|genial(?:es)?|estupend[oa]s?|simpatic[oa]s?|atent[oa]s?|educad[oa]s?|agradables?|cercan[oa]s?|carinos[oa]s?|increibles?|fantastic[oa]s?|excelentes?|de 10|de diez)",
      "(?:me|nos|te|le|lo|la|les) (?:trat\\w+|atend\\w+|acog\\w+|recib\\w+|cuid\\w+) (?:\\w+ ){0,2}(?:como (?:en casa|si fuera|una reina|un rey|reyes|de la familia|familia)|genial|de maravilla|fenomenal|de lujo|con|muy bien|super bien|divinamente|estupendamente)",
      "trat\\w+ (?:\\w+ ){1,4}como si (?:fuera|fuese)|como si fueran? (?:suy[oa]s?|de la familia)|trato (?:de )?(?:10|diez|excelente|exquisito|inmejorable|familiar|cercano|humano)|(?:mas|muy|super|tan) (?:maj|amabl|simpatic|cercan|cariños|carinos|humild|atent|educad|agradabl|respetuos)\\w+|nada (?:antipatic|bord|desagradabl)\\w+|a mas no poder|se desviv\\w+|cercan[oa]s?\\b",
    ],
    unhappy: [
      "(?:muy|bastante|un poco|super|tan|mas) (?:bordes?|sec[oa]s?|antipatic[oa]s?|maleducad[oa]s?|desagradables?|prepotentes?|estirad[oa]s?|fri[oa]s?)|mala educacion|(?:muy )?malos? (?:modos|humor|maneras|formas|trato|caras?)|mala (?:cara|gana|leche|uva)|de malas|por encima del hombro|ni (?:buenos dias|hola|una sonrisa|gracias|un saludo|me miro|una disculpa|perdon)|me (?:habl|contest|trat|grit)\\w+ (?:\\w+ )?(?:fatal|mal|de mala|con desprecio|como|a gritos)",
      "(?:grit(?:ar|aba|aban|o|aron|ando|a|an)|se (?:rio|rieron|rien|burl\\w+) de|me (?:echo|echaron) la bronca|pas(?:a|an|aron|o) (?:\\w+ )?de (?:todo|mi|ti|nosotros|los clientes)|te (?:miran?|tratan?) (?:mal|como)|como si (?:molestara|molestase|fueras? tont|les? molest)\\w*|(?:cero|nula|poca|ninguna|falta de|sin) (?:empatia|educacion|amabilidad|tacto|respeto|paciencia|consideracion)|faltan? el respeto)",
    ],
  },
  result: {
    happy: [
      `${OBRA}\\b(?: (?!(?:no|nunca|mal|peor) )\\w+){0,3} (?:como nuev[oa]s?|perfect[oa]s?|genial(?:es)?|precios[oa]s?|de maravilla|de lujo|fenomenal|divin[oa]s?|bonit[oa]s?|espectacular(?:es)?|como la seda|como una seda|de diez|de 10|impecables?|maravillos[oa]s?|fresc[oa]s?|durar?on|aguant\\w+)`,
      "(?:como (?:una rosa|la seda|una seda|nuev[oa]s?|el primer dia|un cachorro|un reloj suizo|un tiro)|va(?:n)? (?:fenomenal|de maravilla|de lujo|como|perfecto|de cine)|suena(?:n)? (?:\\w+ )?(?:de maravilla|genial|como|fenomenal|bien|precioso)|funciona(?:n)? (?:\\w+ )?(?:perfect\\w*|de maravilla|bien|genial|como|fenomenal)|quedo (?:\\w+ )?(?:como nuev[oa]|perfect[oa]|genial|de lujo|precios[oa]|impecable|bien|fenomenal))",
      "(?:aprob\\w+\\b(?: \\w+){0,3} (?:primera|practico|teorico|examen)|a la primera\\b|(?:vuelve|volvi|ha vuelto|puedo|ya puedo) (?:a )?(?:correr|andar|caminar|comer|jugar|ver bien|dormir|ser el de)|(?:ya )?no (?:me |le )?(?:duele|gotea|cojea|pica|hace ruido|pierde|molesta)|(?:ningun|sin) problemas? desde|ni (?:rastro|una gotera|un raton)|salv\\w+ (?:la vida|a mi)|solucion\\w+|resuelto|arreglad[oa] (?:a la primera|en))",
      "(?:sal(?:i|go|imos)|qued(?:e|amos|o)) (?:\\w+ )?(?:encantad[oa]s?|content[oa]s?|contentisim[oa]s?|feliz|satisfech[oa]s?|enamorad[oa]s?)(?: con)?|(?:justo|exactamente) (?:lo que|como) (?:queria|pedi|buscaba)|todo el mundo (?:me )?(?:pregunta|dice)|duraron (?:dos|tres|mas de|casi|muchas|un monton)|mejor que nunca",
    ],
    unhappy: [
      `${OBRA}\\b(?: \\w+){0,3} (?:marchit[oa]s?|musti[oa]s?|pach?uch[oa]s?|muert[oa]s?|sec[oa]s?|torcid[oa]s?|desigual(?:es)?|rot[oa]s?|mal|fatal|peor|horrible|verde|naranja|quemad[oa]s?|despegad[oa]s?|descolgad[oa]s?|desafinad[oa]s?|goteando|parad[oa]s?|fri[oa]s?|se cayo|se cayeron|se rompio|se salio|se despego|se estropeo|no (?:funciona|cierra|va|enciende|calienta|arranca|abre)\\w*)`,
      "(?:marchit[oa]s?|musti[oa]s?|pocha?s?|torcid[oa]s?|trasquilad[oa]s?|desigual(?:es)?|desafinad[oa]s?)\\b|me (?:dejo|dejaron|han dejado) (?:el |la |los |las |con |fatal|hech[oa]|como|peor|sin|mal)\\b(?! (?:espera|esperando|plantad|preguntar|aranaz|golpe|rasgun))",
      "(?:sigue|siguen|seguia|continua) (?:\\w+ )?(?:igual|cojeando|goteando|doliendo|fallando|rot[oa]|mal|sin|haciendo|oliendo|perdiendo|pitando|peor)|(?:volvi(?:o|eron)|vuelve|vuelven|ha vuelto|han vuelto|otra vez) (?:\\w+ )?(?:a )?(?:fallar|gotear|doler|romper\\w*|salir|aparecer|lo mismo|la averia|el problema|estropear\\w*|atascar\\w*|encender\\w*)|(?:a los|al) (?:\\w+ )?(?:dias?|semanas?|meses) (?:\\w+ ){0,2}(?:volvio|se|otra vez|ya no|dejo)|nada que ver con (?:la foto|lo que)|no es lo que (?:pedi|queria|encargue)|peor que (?:antes|estaba|cuando)|ninguna mejoria|no (?:noto|he notado|hay) (?:ninguna )?(?:mejoria|mejora|diferencia)|un desastre|una chapuza|chapuz\\w+|suspend\\w+|diagnostico equivocado|se equivoc\\w+ (?:de|con) (?:el |la )?(?:diagnostico|color|pieza|graduacion)",
    ],
  },
  booking: {
    happy: [
      "(?:comodisim[oa]|facilisim[oa]|rapidisim[oa]|muy (?:facil|comodo|sencillo))\\b.{0,24}(?:cita|reserv|pedir|web|app|online)?|(?:pedir|reservar|coger|cambiar|anular) (?:la |mi )?(?:cita|hora)?\\b.{0,30}\\b(?:comod\\w*|facil\\w*|sencill\\w*|rapid\\w*|minuto|segundos|sin problemas?)",
      "(?:me|nos) (?:hicieron|hizo|buscaron|busco|encontraron|encontro|dieron|dio|cogieron|colaron|metieron) (?:\\w+ )?(?:hueco|cita|hora|sitio|sin cita|el mismo dia)|(?:sin cita|el mismo dia|de un dia para otro|con poca antelacion|contestan (?:al|enseguida|rapido|siempre|en)|cogen el telefono (?:a la|enseguida|siempre)|horarios? (?:flexible|amplio)s?)",
    ],
    unhappy: [
      "(?:imposible|no hay (?:manera|forma)|misión imposible|mision imposible)(?: de)?(?: que)?(?: te| me| os| nos)? (?:coj\\w+|contest\\w+|conseguir|contactar|hablar|localizar|pedir|reservar|dar)|no (?:les|me|nos|le) (?:constaba|consta|figuraba|aparecia|salia)|(?:cambi|anul|cancel|aplaz|movi|retras)\\w+ (?:\\w+ )?(?:la |mi |las |el |nuestra )?(?:cita|clase|clases|visita|hora|reserva)|lista de espera|(?:dos|tres|varios|\\d+) (?:meses|semanas) (?:para (?:una |la |que )?(?:cita|te|den|dar))|(?:la web|la app|el formulario|la pagina) (?:\\w+ )?(?:no |se cuelga|falla|da error)",
    ],
  },
  cleanliness: {
    happy: [
      "(?:limpisim[oa]s?|limpi[oa]s? y (?:orden|recog)\\w+|recogid(?:o|it[oa]|ito)|impolut[oa]s?|reluciente?s?|como los chorros|como una patena|(?:local|sitio|clinica|sala|bano|banos|instalaciones|consulta|centro|casa|taller|todo) (?:\\w+ )?(?:impecables?|limpi\\w+|cuidad[oa]s?|ordenad\\w+|reluciente?s?|desinfectad[oa]s?))",
      "(?:dej(?:o|aron|an|a)) (?:\\w+ ){0,3}(?:recogid[oa]|limpi[oa]|ordenad[oa]|impecable|reluciente|como)|(?:no|sin|ni) (?:\\w+ ){0,3}(?:una mota|ni una mota|mota de polvo|rastro de|nada sucio|ensuci\\w+|manch\\w+ nada)|(?:huele|olia) (?:\\w+ )?(?:bien|a limpio|genial|de maravilla)|taparon todo|se llev\\w+ (?:los escombros|la basura|todo)",
    ],
    unhappy: [
      "(?:oli|huel|apest)\\w+ (?:\\w+ )?(?:a (?:pis|perro|humedad|tabaco|cerrado|alcantarilla|sudor|lejia|rancio|podrido|fritanga)|mal|fatal|que|raro)|apest\\w+|(?:hech[oa]|dejaron\\b.{0,20}) (?:\\w+ )?(?:un asco|una pocilga|una cuadra|perdid[oa]|un cristo|una leonera)|un asco|(?:polvo|pelos?|barro|manchas?|migas|basura|escombros|restos|serrin|hollin|grasa|huellas) (?:\\w+ ){0,2}(?:por (?:todas partes|todos lados|el suelo|toda)|en (?:el|la|los|las|mi)|everywhere)|lleno de (?:mierda|polvo|pelos|restos|manchas|basura)|sin (?:limpiar|recoger|barrer|guantes|fregar)|bastante suci[oa]|muy suci[oa]",
    ],
  },
  access: {
    happy: [
      "(?:se aparca (?:muy )?(?:bien|facil|sin)|(?:facil|sin problema) (?:de |para )?(?:aparcar|encontrar|llegar)|(?:metro|autobus|bus|parada|tren|tranvia|parking|aparcamiento)\\b(?: \\w+){0,4} (?:en la puerta|al lado|cerca|enfrente|a un paso|gratis|gratuito|propio|amplio)|(?:rampa|ascensor|adaptad[oa]|accesible|a pie de calle|sin escaleras|sin escalones)\\b(?! (?:no|rot|estrope|siempre))|(?:muy )?(?:ceca|bien) (?:comunicad|situad|ubicad|localizad)[oa]|centriqu?isim[oa])",
    ],
    unhappy: [
      "(?:no (?:hay|encuentr\\w+|hay quien|tienes|se encuentra) (?:\\w+ ){0,2}(?:donde aparcar|aparcamiento|sitio|parking|quien aparque)|no hay donde aparcar|aparcar (?:\\w+ ){0,3}(?:imposible|horror|odisea|dificil|infierno|complicado|suplicio|pesadilla)|(?:escalones|escaleras|bordillo|escalon)\\b(?! (?:no|sin))|no (?:pasa|entra|cabe)\\w* (?:\\w+ ){0,2}(?:silla|carrito|cochecito)|(?:ascensor|rampa) (?:\\w+ ){0,2}(?:rot[oa]|estropead[oa]|no funciona|averiad[oa])|sin (?:ascensor|rampa|aparcamiento|parking)|(?:mal|nada|poco) (?:senalizad|comunicad|accesibl|adaptad)\\w+|(?:dificil|imposible|cuesta) de? ?encontrar|en el quinto pino|perdid[oa] de la mano)",
    ],
  },
  "follow-up": {
    happy: [
      "(?:se (?:preocup|interes)\\w+ (?:de |por |en )|(?:llam|escrib|mand|envi|pregunt)\\w+\\b(?: \\w+){0,8} (?:que tal|como (?:estaba|seguia|iba|se encontraba|estoy|esta|sigue|va|iba todo|habia)|al dia siguiente|a los (?:pocos )?dias|despues|por ella|por el|para (?:saber|ver|preguntar|comprobar))|(?:volvi|regres|vini|pas)\\w+ (?:\\w+ ){0,4}(?:a comprobar|para comprobar|a revisar|para (?:ver|revisar|asegurar\\w*|ajustar\\w*)|a ajustar\\w*|sin cobrar|gratis)|(?:respond|contest)\\w+ (?:\\w+ )?(?:siempre|al momento|enseguida|despues)|(?:me|nos) (?:mantuvo|mantuvieron|tienen|tenian) (?:informad|al tanto|al dia)\\w*|pendientes? de (?:ella|el|mi|nosotros|todo|su)|fotos cada dia|lo (?:arregl|solucion|cambi)\\w+ (?:al momento|sin (?:problema|cobrar|rechistar|poner pegas)|en el acto|gratis))",
    ],
    unhappy: [
      "(?:qued(?:o|aron) en|promet\\w+|dij\\w+ que|iban? a)\\b(?: \\w+){0,12} (?:nunca|no|hasta hoy|hasta ahora|todavia|sigo|aun|ni)\\b|(?:y|hasta) (?:hoy|ahora|la fecha)\\b|(?:nunca|jamas|no) (?:\\w+ ){0,2}(?:lleg\\w+|llam\\w+|contest\\w+|respond\\w+|volvi\\w+|han vuelto|devolvi\\w+|dio|dieron|dar|cog\\w+ el telefono|he (?:vuelto|recibido)|recibi)\\b|senales de vida|ni (?:caso|una respuesta|una llamada|rastro|contestan|me contestan|responden)|(?:escrit|llam|mand|envi)\\w+ (?:\\w+ ){0,3}(?:correos?|mensajes?|veces|emails?|whatsapps?)\\b|(?:desde|una vez|en cuanto|despues de) (?:que )?(?:cobr|pag)\\w+|se (?:lavan?|lavaron) las manos|se desentiend\\w+|si te he visto|desaparec\\w+|sigo esperando|no dan la cara|dando largas|largas\\b",
    ],
  },
  damage: {
    happy: [
      `(?:no|sin|ni)(?: \\w+)? (?:romp\\w+|toc\\w+|ray\\w+|dan\\w+|golpe\\w+|manch\\w+|estrope\\w+)(?: \\w+){0,2} (?:nada|ni un\\w*|un solo|ningun\\w*|un (?:mueble|rasguno|plato|vaso))|(?:todo|llego|llegaron) (?:\\w+ )?(?:intact[oa]s?|entero|enteros|perfecto|en perfecto estado|sano y salvo)|ni un (?:rasguno|aranazo|golpe|desconchon|roce)|(?:mucho |con |tuvieron |gran )cuidado (?:con|de) (?:\\w+ ){0,2}${COSA}`,
    ],
    unhappy: [
      `(?:romp\\w+|rot[oa]s?|ray\\w+|aran\\w+|golpe\\w+|aboll\\w+|quem\\w+|manch\\w+|dan(?:o|aron|ado|ada)|destroz\\w+|estrope\\w+|parti\\w+|rasg\\w+|agujere\\w+|carg\\w+|descos\\w+|encog\\w+|desconch\\w+)\\b(?: (?!(?:no|nada|nunca) )\\w+){0,3} ${COSA}`,
      `(?:dej\\w+|hicieron|hizo|tiene|tenia|aparecio|con|vi)\\b(?: \\w+){0,2} (?:aranazos?|rasgunos?|golpes?|bollos?|manchas?|agujeros?|quemaduras?|desconchon(?:es)?|roces?|grietas?|marcas?) (?:en|por)`,
      `${COSA} (?:\\w+ ){0,3}(?:rot[oa]s?|rayad[oa]s?|rajad[oa]s?|manchad[oa]s?|abollad[oa]s?|quemad[oa]s?|estropead[oa]s?|hech[oa]s? (?:trizas|polvo|anicos))|se (?:cargaron|cargo|llevaron por delante)|me (?:quem|cort|hicieron (?:dano|sangre|una herida))\\w*|falta(?:n|ba|ban) (?:\\w+ )?(?:cosas|cajas|piezas|una caja)`,
    ],
  },
  thoroughness: {
    happy: [
      "(?:minucios\\w+|meticulos\\w+|detallistas?|concienzud\\w+|perfeccionistas?|escrupulos\\w+|a (?:fondo|conciencia)|con (?:esmero|mimo en|todo el esmero|precision)|hasta el (?:ultimo|mas minimo) (?:detalle|rincon|tornillo)|cada (?:detalle|mechon|rincon|pieza|tornillo)|no (?:tiene|tienen|tuvo|hay|tenia) prisas?|sin (?:ninguna )?prisas?|se nota que le (?:gusta|apasiona)|revis\\w+ (?:\\w+ )?(?:todo|completa|exhaustiva|a fondo|de arriba)|(?:detect|encontr|descubr|vio|vieron)\\w* (?:\\w+ ){0,4}(?:nadie|otros|ningun)\\b|se toma(?:n|ron|)? (?:\\w+ )?(?:su|el) tiempo|bien hech[oa]|profesional(?:es|azos?|idad|ismo)?)",
    ],
    unhappy: [
      "(?:ni (?:siquiera )?(?:me|nos|le|la|lo|les|te) (?:mir\\w+|toc\\w+|examin\\w+|ausc\\w+|revis\\w+|pregunt\\w+)|no (?:me|le|la|lo|les|nos)? ?(?:revis\\w+|comprob\\w+|mir\\w+ (?:nada|bien|los|el|la)|examin\\w+)|deprisa y corriendo|a toda prisa|con prisas?|con las prisas|chapuz\\w+|chapucer[oa]s?|a medias|sin (?:acabar|terminar|rematar|revisar|comprobar|mirar)|de cualquier manera|(?:dos|tres|cinco|diez) minutos y|visto y no visto y|se (?:dej|olvid)\\w+ (?:\\w+ ){0,2}(?:de |la |el |un |una |los |las )?(?:mitad|pieza|tornill|parte|apretar|poner|limpiar|revisar|habitaci|esquin)\\w*|mal rematad\\w*|poco profesional\\w*|falta de (?:profesionalidad|cuidado|interes|rigor))",
    ],
  },
  honesty: {
    happy: [
      "(?:de (?:fiar|confianza|palabra|toda confianza)|honrad\\w+|honest\\w+|sincer\\w+|transparen\\w+|seri[oa]s? y|gente seria|sin (?:enganos?|trampas?|letra pequena|mentiras|sorpresas|tonterias)|no (?:te |me |nos )?(?:enganan?|engano|time\\w*|mienten|intentan? (?:vender|cobrar|colar)\\w*)|cumpl(?:en|e|ieron) (?:con )?(?:lo|su|la) (?:que|palabra|prometid\\w+|acordado)|van? de cara|sin intentar (?:vender|colar)\\w*)",
      "(?:dij\\w+|aconsej\\w+|recomend\\w+|advirti\\w+|reconoc\\w+)\\b(?: \\w+){0,3} (?:no (?:\\w+ )?(?:hacia falta|era necesario|operar|tenir\\w*|cambiar\\w*|necesit\\w+|merec\\w+|valia|gast\\w+|comprar\\w*)|esperar|su error|el fallo)|(?:lo que|que) (?:\\w+ )?(?:podia|podria) esperar|(?:podria|pudo|podian)(?:n)? haber(?:me|nos)? (?:cobrad|vendid|engana|colad)\\w+",
    ],
    unhappy: [
      "(?:era (?:mentira|falso)|mentir\\w*|minti\\w+|mienten?|engan(?:a|an|o|aron|ad[oa]s?|ar|osos?|oso)\\b|tim(?:o|aron|ad[oa]s?|adores)\\b|estaf\\w+|sinverguenzas?|caraduras?|ladron(?:es)?|jetas?\\b|se aprovech\\w+|te cobran? (?:pruebas|cosas|por)\\b.{0,24}\\bno|cobr\\w+ (?:\\w+ ){0,4}(?:que no (?:hic|pus|hac|tocaba|pedi)|no hecho|sin avisar|no es el que)\\w*|dij\\w+ una cosa|(?:una cosa|un precio) y (?:cobr|luego|despues|otra)\\w*|el precio\\b.{0,40}\\bno es el|sin avisar|letra pequena|(?:me|nos|te) (?:intent|quis|quer)\\w+ (?:vender|colar|cobrar|enganar)|segunda opinion|otro (?:taller|dentista|veterinario|mecanico|medico) (?:\\w+ )?(?:dijo|que no|me dijo))",
    ],
  },
};
