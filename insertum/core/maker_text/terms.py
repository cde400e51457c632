"""The words of specification pages and manuals in English, German and French, as patterns over normalised text."""

import re

#: Numbers in words, up to a dozen: nobody spells more screws out.
_WORDS = {
    1: "one|a|an|single|ein|eine|einen|einem|einer|un|une|1", 2: "two|dual|zwei|deux", 3: "three|drei|trois",
    4: "four|vier|quatre", 5: "five|fünf|cinq", 6: "six|sechs", 7: "seven|sieben|sept", 8: "eight|acht|huit",
    9: "nine|neun|neuf", 10: "ten|zehn|dix", 11: "eleven|elf|onze", 12: "twelve|zwölf|douze",
}  # fmt: skip
NUMBERS = {w: n for n, words in _WORDS.items() for w in words.split("|")}
NUMBER = r"(?:\d{1,2}|" + "|".join(sorted(NUMBERS, key=len, reverse=True)) + ")"
NO = r"(?:no|none|not|without|kein\w*|nicht|ohne|aucune?|pas\s+d[e']|sans|non)"
#: Capacities only: "Gb" is a rate's unit or a chip's.
GB = r"(?-i:GB|Go|GiB)\b"
TB = r"(?-i:TB|To)\b"

FREE = re.compile(r"\b(?:free|empty|unused|vacant|frei\w*|leer\w*|unbelegt\w*|libres?|vides?)\b", re.I)
#: Where a thing can be put in.
SLOT = re.compile(
    r"\bslots?\b|\bsockets?\b|steckpl(?:atz|ätz)|\bemplacements?\b|\blogements?\b|\bsits\s+in\b|\bsteckt\s+in\b", re.I
)
SOLDERED = re.compile(
    r"\bsolder(?:ed)?\b|\bon-?board\b|\bon\s+(?:the\s+)?board\b|(?:auf|ver|ein|fest\s+ver)gelötet\w*|verlötet\w*|\bsoudée?s?\b",
    re.I,
)
FITTED = re.compile(
    r"\bfitted\b|\b(?:pre-?)?installed\b|\bincluded\b|\bcomes\s+with\b|\bships\s+with\b|\bequipped\b|\bbestückt|\bverbaut|\bab\s+werk\b|"
    r"\bvorinstalliert|\beingebaut|\bmitgeliefert|\binstallée?s?\b|\blivrée?s?\b|\bfournie?s?\b|\bmontée?s?\b",
    re.I,
)
#: Said of what is sold, not of what the machine can take.
ON_SALE = re.compile(
    r"\boptional(?:ly)?\b|\boptions?\b|\bchoose\b|\bchoice\s+of\b|\bavailable\b|\border(?:ed)?\b|\bconfigurable\b|\bas\s+you\s+like\b|"
    r"\bsold\b|\bkits?\b|\bwahlweise\b|\bauf\s+wunsch\b|\berhältlich|\bbestellbar|\bkonfigurier\w*|\bwählen\b|\bau\s+choix\b|\bdisponibles?\b|"
    r"\bproposée?s?\b|\bupgrades?\s+(?:kits?|your)\b|\bexiste\b|\baccessor(?:y|ies)\b|\bzubehör\b|\baccessoires?\b",
    re.I,
)
#: True of some machines of the page only, and the page does not say of which.
DEPENDS = re.compile(
    r"\b(?:models?|versions?|variants?|units?|machines?|those)\s+(?:with|that|which|built|made)\b|\b(?:modelle|versionen|varianten|geräte)\s+mit\b|\b(?:modèles|versions|appareils)\s+avec\b|"
    r"\bdepend(?:s|ing)\b|\b(?:some|selected|certain|other|most)\s+(?:models?|versions?|configurations?|units?)\b|\bonly\s+on\b|\bon\s+models\b|"
    r"\bvar(?:y|ies)\b|\bje\s+nach\b|\b(?:manche|einige|ausgewählte|bestimmte)\w*\s+(?:modelle|geräte|versionen)\w*|\bnur\s+bei\b|\bselon\b|"
    r"\bcertains?\s+mod|\bsuivant\s+le\b|\bmay\s+(?:have|be|include|come)\b|\bif\s+(?:your|the|present|equipped|fitted)\b|\bwhere\s+(?:fitted|present)\b|"
    r"\b(?:two|three|several|various|zwei|drei|mehrere\w*|verschiedene\w*|deux|trois|plusieurs)\s+(?:versions?|variants?|models?|varianten?|ausführungen|versionen|modelle|modèles)\b|"
    r"\bfalls\b|\bsofern\b|\bsi\s+votre\b|\bsi\s+le\b|\bwenn\s+(?:ihr|das|vorhanden)|\bprobably\b|\bsubject\s+to\b",
    re.I,
)
#: A label that speaks of some of the machines: "SSD models: …".
SOME_OF_THEM = re.compile(r"\w.*\b(?:models?|versions?|variants?|modelle?n?|varianten?|ausführung\w*|modèles?)\b", re.I)
#: On a page of several machines, said of one of them: nobody can tell whether it is this one.
ONE_OF_THEM = re.compile(
    r"\b(?:the\s+)?(?:smaller|larger|bigger|former|latter|cheaper|dearer|older|newer|little|big)\s+(?:ones?|models?|machines?|notebooks?|versions?|siblings?|brother|sister)\b|"
    r"\b(?:das|dem|der|die)\s+(?:kleiner|größer|älter|neuer)e[rn]?\b|\b(?:le|la)\s+plus\s+(?:petite?|grande?|ancienne?|récente?)\b|\b(?:le|la)\s+(?:premier|première|second|seconde)\b|"
    r"\bthe\s+(?:first|second|one\s+of\s+the\s+two)\s+(?:machine|model|notebook)\b",
    re.I,
)
#: Said of something else than this machine.
ELSEWHERE = re.compile(
    r"\bplatform\b|\bchipset\b|\b(?<!host )controllers?\b|\badapt(?:er|ateur)s?\b(?!\s+leads)|\b(?:processor|CPU)\s*:?\s+(?:supports?|takes?|allows?|can|has)\b|"
    r"\bprozessor\s*:?\s+(?:unterstützt|nimmt|erlaubt|kann|hat)\b|\bprocesseur\s*:?\s+(?:prend|accepte|supporte|permet|a)\b|"
    r"\bplattform\b|\bchipsatz\w*|\bplate-?forme\b|\bjeu\s+de\s+puces\b|\bmemory\s+controller\b|\bspeichercontroller|"
    r"\bpredecessors?\b|\bsuccessors?\b|\bprevious\s+(?:model|generation)|\bvorgänger|\bnachfolger|\bprédécesseur|\bsuccesseur|\bcompetitor|\bschwestermodell\w*|\b(?:sister|sibling)\s+(?:model|machine|notebook)|\bmodèle\s+(?:frère|voisin)|"
    r"\bdock(?:ing)?\b|\bcradles?\b|\b(?:base|expansion)\s+(?:station|unit|base)\b|\bmedia\s+slice\b|\bport\s+replicator|\bexternal\b|\bextern\w*|\bexterne?s?\b|\benclosures?\b|\bdesktops?\b|\bservers?\b|\bother\s+(?:models|machines|notebooks)\b",
    re.I,
)
#: The clause a comparison begins with, up to where it speaks of this machine again.
COMPARED = re.compile(
    r"^(?:unlike|while|whereas|compared|in\s+contrast|im\s+gegensatz|anders\s+als|im\s+vergleich|während|contrairement|par\s+rapport|alors\s+que|tandis\s+que)\b",
    re.I,
)
#: A family word and a number; card sizes, years and figures with a unit look alike and are none.
PROCESSOR_NAME = re.compile(
    r"\b(?!(?:With|The|Mit|Avec|Type|Size|Page|Seite|Model|Year|Key|Slot|Socket|In|On|For|Up|Bis)\b)"
    r"(?:(?!(?:With|The|Mit|Avec)\b)[A-Z][a-z]+ )?[A-Z][a-z]+ (?!(?:22|30|16|12)(?:16|30|42|52|60|80)\b|22110\b|(?:19|20)\d\d\b)"
    r"\d{3,5}[A-Z]{0,2}\b(?!\s*(?:MT|MHz|GB|Go|MB|mAh|mm|Wh|rpm)\b|-)"
)
#: A machine's name as makers give them: a word and an inch figure.
MACHINE_NAME = re.compile(
    r"\b(?!Page|Seite|Figure|Fig|Abb|Step|Model|Max|Up|Bis|Type)([A-Z][a-zà-ÿ]+ 1[0-9])\b(?!\s*(?:GB|Go|TB|To|inch|Zoll|mm|Wh?|V|h|hours|Stunden|heures)\b|[.,]\d)"
)

#: What a label or heading speaks of. The first that matches counts.
TOPICS: tuple[tuple[str, re.Pattern[str]], ...] = tuple(
    (topic, re.compile(words, re.I))
    for topic, words in (
        ("other", r"\bports?\b|(?<!storage )(?<!drive )\binterfaces?\b|\banschl[uü]ss\w*|\bschnittstellen?\b|\bconnecti(?:que|vity)\b|\bdisplay\b|\bscreen\b|\bbildschirm\b|\bécran\b|\bgraphics?\b|\bgrafik\b|\bvideo\b|\bcamera\b|\bkamera\b|\baudio\b|\bkeyboard\b|\btastatur\b|\bweight\b|\bgewicht\b|\bpoids\b|\bin\s+the\s+box\b|\blieferumfang\b|\bcontenu\b|\bcharger\b|\bnetzteil\b|\bcard\s+reader\b|\boperating\b|\bwarranty\b|\bgarantie\b|\bchipset\b|\bcolou?rs?\b|\bdimensions\b|\baccessories\b|\bdock"),
        ("cellular", r"\bWWAN\b|\bcellular\b|\bmobile\s+broadband\b|\bmobilfunk\b|\bLTE\b|\b[45]G\b|\bréseau\s+mobile\b"),
        ("radio", r"\bWLAN\b|\bWi-?Fi\b|\bwireless\b|\bradio\b|\bfunk\b|\bsans\s+fil\b|\bréseau\b|\bdrahtlos"),
        ("battery", r"\bbattery\b|\bbatter(?:ie|ies)\b|\bakkus?\b|\bpack\b"),
        ("memory", r"\bmemory\b|\bRAM\b|\barbeitsspeicher\b|\bhauptspeicher\b|\bspeichersteckpl\w+|\bspeichertyp\b|\bspeichertakt\w*|\bmémoire\b|\bSO-DIMM\b|\bDIMMs?\b"),
        ("storage", r"\bstorage\b|\bdrives?\b|\bSSD\b|\bM\.2\b|\bbay\b|\bmSATA\b|\beMMC\b|\bHDD\b|\bmassenspeicher\b|\blaufwerk\w*|\bfestplatte\w*|\w*schacht\b|\bstockage\b|\bbaie\b|\bdisques?\b"),
        ("processor", r"\bprocessors?\b|\bCPU\b|\bprozessor(?:en)?\b|\bprocesseurs?\b"),
    )
)  # fmt: skip


def number(word: str) -> int:
    """A number in figures or as one of the words of ``NUMBERS``. Raises KeyError for any other word."""
    return int(word) if word.isdigit() else NUMBERS[word.lower()]


def topic_of(text: str) -> str:
    """What a heading or label speaks of, '' where it is none of the topics."""
    return next((t for t, words in TOPICS if words.search(text)), "")
