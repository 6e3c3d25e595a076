namespace Jexa.Demo;

/// <summary>The invented words the register is made of.</summary>
internal static class RegisterWords
{
    /// <summary>Slugs that are awkward in an address are here on purpose.</summary>
    public static IReadOnlyList<(string Slug, string Name, string? Warden, double? AreaKm2, string? Note)> Districts { get; } =
    [
        ("alder-foot", "Alder Foot", "Orla Fenwright", 41.5, "Where the Alder leaves the valley."),
        ("st-anne's", "St Anne’s", "Tam Kessock", 18.2, "The slug has an apostrophe."),
        ("løkke", "Løkke", "Ingrel Vastmo", 27.9, "The slug has a letter outside ASCII."),
        ("n/w-moor", "North-West Moor", null, 112.0, "The slug has a slash."),
        ("50%-common", "Fifty Per Cent Common", "Bram Oxley-Dunn", 9.6, "The slug has a per cent sign."),
        ("mill+weir", "Mill and Weir", "Sunniva Hartle", 14.3, "The slug has a plus sign."),
        ("q?-hill", "Query Hill", "Peder Lowick", null, "The slug has a question mark."),
        ("high #3", "High Ward Three", "Maud Tansley-Roe", 33.1, "The slug has a space and a number sign."),
        ("cafe\u0301-row", "Café Row", "Elspin Garraway", 3.4, "The slug has an accented letter of two code points."),
        ("new", "New", null, 21.7, "The slug is a word that other paths use."),
        ("lower-sallow", "Lower Sallow", "Jory Pellam", 58.8, null),
        ("upper-sallow", "Upper Sallow", "Jory Pellam", 61.0, null),
    ];

    public static IReadOnlyList<string> Kinds { get; } =
    ["arch", "beam", "cable-stayed", "footbridge", "suspension", "swing", "truss", "viaduct"];

    public static IReadOnlyList<string> Rivers { get; } =
    ["Alder", "Little Alder", "Sallow", "Quern Beck", "Moss Burn", "Tarn Leat", "Old Cut"];

    public static IReadOnlyList<string> Notes { get; } =
    [
        "Repainted; see the 2019 survey.",
        "Load limit under review.",
        "Listed. Stonework must not be cleaned with acid.",
        "Deck renewed in timber.\nHandrail still original.",
        "Otters nest below the east abutment: no work from March to June.",
        "Drainage blocked in heavy rain <north side> & needs clearing.",
    ];

    public static IReadOnlyList<string> SpanKinds { get; } = ["approach", "main", "river", "side"];

    public static IReadOnlyList<string> Materials { get; } =
    ["brick", "concrete", "granite", "oak", "sandstone", "steel", "wrought iron"];

    public static IReadOnlyList<string> Inspectors { get; } =
    [
        "Ansel Thorrowby",
        "Bryony Quelch",
        "Corin Maddern",
        "Dagny Holtwell",
        "Edda Ravensko",
        "Fintan Oake",
        "Greta Lindqvale",
        "Hob Tarrant",
        "Isolde Penhallick",
        "Jarl Weatherup",
        "Kerensa Dunmore",
        "Lorcan Ashgill",
    ];

    public static IReadOnlyList<string> Verdicts { get; } = ["sound", "sound", "sound", "watch", "watch", "repair", "close"];

    public static IReadOnlyList<string> Remarks { get; } =
    [
        "Pointing lost below the waterline.",
        "Bearings greased.",
        "Crack at the crown, 2 mm, unchanged since the last visit.",
        "Handrail loose on the upstream side.",
        "No access: cattle on the deck.",
    ];

    private static readonly string[] Firsts =
    [
        "Abbot",
        "Ash",
        "Barley",
        "Beck",
        "Bell",
        "Birch",
        "Bracken",
        "Carter",
        "Chapel",
        "Clay",
        "Cobble",
        "Crane",
        "Dairy",
        "Elder",
        "Fern",
        "Ferry",
        "Fuller",
        "Gorse",
        "Granary",
        "Hazel",
        "Heron",
        "Hollow",
        "Iron",
        "Juniper",
        "Kiln",
        "Lantern",
        "Lime",
        "Linnet",
        "Market",
        "Mason",
        "Meadow",
        "Miller",
        "Oak",
        "Orchard",
        "Otter",
        "Packhorse",
        "Pepper",
        "Quarry",
        "Reed",
        "Rook",
        "Rowan",
        "Saddler",
        "Sedge",
        "Shepherd",
        "Sluice",
        "Smithy",
        "Swallow",
        "Tanner",
        "Thistle",
        "Toll",
        "Weaver",
        "Willow",
        "Wool",
        "Yarrow",
    ];

    private static readonly string[] Seconds =
    [
        "Bridge",
        "Crossing",
        "Span",
        "Arches",
        "Walk Bridge",
        "Lane Bridge",
        "Ford Bridge",
        "Gate Bridge",
        "Viaduct",
        "Footbridge",
    ];

    public static string BridgeName(SplitMix random) =>
        random.Below(40) == 0
            ? $"{random.Pick(Firsts)} & {random.Pick(Firsts)} {random.Pick(Seconds)}"
            : $"{random.Pick(Firsts)} {random.Pick(Seconds)}";

    public static IReadOnlyList<string> Captions { get; } =
    [
        "From the west bank",
        "From upstream",
        "The middle pier at low water",
        "After the works",
        "In frost",
        "The deck, looking north",
        "From the mill path",
    ];

    public static IReadOnlyList<string> Sounds { get; } =
    [
        "High water in spring",
        "Low water in August",
        "Ice going out",
        "After three days of rain",
        "A quiet morning",
        "Under the middle arch",
        "From the mill path",
    ];

    public static IReadOnlyList<string> DefectKinds { get; } =
    ["crack in a pier", "loose railing", "rust at a bearing", "washed-out footing", "worn joint", "missing bolt", "damp masonry"];

    /// <summary>A few lines of Markdown about a bridge.</summary>
    public static string Story(int bridge, string kind) =>
        $"""
            This {kind} replaced an older crossing that the **flood of {1800 + (bridge % 90)}** took away.

            - The first toll was *one copper a cart*.
            - Its plans are kept under number `{bridge * 7}`.

            See [all bridges](page:bridges).
            """;
}
