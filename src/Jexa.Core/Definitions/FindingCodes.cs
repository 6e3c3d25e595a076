namespace Jexa.Core.Definitions;

/// <summary>All kinds of findings. A published code never changes its meaning.</summary>
public static class FindingCodes
{
    // The file.
    public static readonly FindingCode FileTooLarge = Error("JX101", "The app file is too large");
    public static readonly FindingCode FileNotText = Error("JX102", "The app file is not UTF-8 text");
    public static readonly FindingCode FileEmpty = Error("JX103", "The app file is empty");
    public static readonly FindingCode NotYaml = Error("JX104", "The text is not YAML");
    public static readonly FindingCode TooDeep = Error("JX105", "The text is nested too deep");
    public static readonly FindingCode AliasOrTag = Error("JX106", "An alias, anchor or tag");
    public static readonly FindingCode SeveralDocuments = Error("JX107", "More than one document");
    public static readonly FindingCode TextTooLong = Error("JX108", "A single text is too long");
    public static readonly FindingCode FileUnreadable = Error("JX109", "The app file cannot be read");

    // Keys and shapes.
    public static readonly FindingCode UnknownKey = Error("JX111", "Unknown key");
    public static readonly FindingCode DuplicateKey = Error("JX112", "The same key twice");
    public static readonly FindingCode MissingKey = Error("JX113", "A required key is missing");
    public static readonly FindingCode WrongShape = Error("JX114", "Text, list or mapping where another was expected");
    public static readonly FindingCode QuoteIt = Error("JX115", "Braces need quotes");
    public static readonly FindingCode UnknownWord = Error("JX116", "Not one of the words that can stand here");
    public static readonly FindingCode BadName = Error("JX117", "Not a name");

    // Sources.
    public static readonly FindingCode UnknownEngine = Error("JX201", "Unknown engine");
    public static readonly FindingCode VariableNotSet = Error("JX202", "An environment variable is not set");
    public static readonly FindingCode SourceAway = Error("JX203", "The source cannot be reached");
    public static readonly FindingCode UnknownSource = Error("JX204", "Unknown source");
    public static readonly FindingCode UnknownTable = Error("JX205", "Unknown table");
    public static readonly FindingCode SourceFault = Warning("JX206", "A part of a source that cannot be used");
    public static readonly FindingCode SourceDoubt = Warning("JX207", "Values of a source that are not what the others are");
    public static readonly FindingCode CannotList = Error("JX208", "A list of what can only be read one by one");
    public static readonly FindingCode BadEndpoint = Error("JX209", "An endpoint that cannot be called");
    public static readonly FindingCode SourceRemembered = Warning("JX210", "A source that is away is taken as it was");
    public static readonly FindingCode TableUnreadable = Error("JX211", "A table that may not be read");

    // Records.
    public static readonly FindingCode UnknownField = Error("JX301", "Unknown field");
    public static readonly FindingCode NoKey = Error("JX302", "The record has no key");
    public static readonly FindingCode KeyNotUnique = Warning("JX303", "Nothing keeps the key unique");
    public static readonly FindingCode KeyTypeNotServed = Error("JX304", "A key of a type that is not served");
    public static readonly FindingCode UnknownRecord = Error("JX305", "Unknown record");
    public static readonly FindingCode BadText = Error("JX306", "A text with holes that cannot be read");
    public static readonly FindingCode ValueOfOtherType = Error("JX307", "A value of another type than its field");
    public static readonly FindingCode SecretShown = Error("JX308", "A secret field where it would be shown");

    public static readonly FindingCode NoSuchStep = Error("JX309", "No foreign key that leads there");
    public static readonly FindingCode BadQuery = Error("JX310", "A query that cannot be used");
    public static readonly FindingCode FilterOfOtherType = Error("JX311", "A comparison that does not suit its field");
    public static readonly FindingCode PicturesAway = Warning("JX312", "The folder of pictures is not there");

    public static readonly FindingCode LabelIsNumber = Hint("JX313", "A label that is only a number");

    // Pages.
    public static readonly FindingCode BadPath = Error("JX401", "A path that cannot be matched");
    public static readonly FindingCode SameAddresses = Error("JX402", "Two pages for the same addresses");
    public static readonly FindingCode HiddenAddresses = Warning("JX403", "A page hides addresses of records");
    public static readonly FindingCode DetailWithoutId = Error("JX404", "A detail page without an ID");
    public static readonly FindingCode UnboundParameter = Error("JX406", "A parameter that stands for no field");
    public static readonly FindingCode UnknownParameter = Error("JX407", "Unknown parameter");
    public static readonly FindingCode UnknownPage = Error("JX408", "Unknown page");
    public static readonly FindingCode KeyOfOtherPageKind = Error("JX409", "A key that this kind of page does not have");
    public static readonly FindingCode IdNotUnique = Warning("JX410", "The ID does not tell records apart");
    public static readonly FindingCode PageNeedsParameters = Error("JX411", "A page that cannot be opened by itself");
    public static readonly FindingCode FormerParameters = Error("JX412", "A former path with other parameters");

    public static readonly FindingCode NoSuchList = Error("JX413", "No list that takes this");
    public static readonly FindingCode NotRelated = Error("JX414", "Records that no foreign key ties together");
    public static readonly FindingCode UnknownZone = Error("JX415", "Unknown time zone or locale");
    public static readonly FindingCode FileAway = Error("JX416", "A file of the app that is not there");
    public static readonly FindingCode SlowOrder = Warning("JX417", "An order that no index can serve");
    public static readonly FindingCode NotWritable = Error("JX418", "A field that no form can fill");
    public static readonly FindingCode RequiredNotAsked = Error(
        "JX419",
        "A required field that a new record's form does not ask for"
    );
    public static readonly FindingCode WritesUnnoted = Warning("JX420", "Changes whose end nobody may be able to tell");
    public static readonly FindingCode CannotWrite = Error("JX421", "A page that changes what cannot be changed");
    public static readonly FindingCode SlowId = Warning("JX422", "Records that no index leads to");

    public static readonly FindingCode NothingLeadsThere = Hint("JX423", "A page that nothing leads to");
    public static readonly FindingCode NoWayBack = Hint("JX424", "A record's page without a way back");

    // Links.
    public static readonly FindingCode LinkToUnwrittenPage = Warning("JX501", "A link to a page that is not written yet");
    public static readonly FindingCode LinkLacksParameter = Error("JX502", "A link does not pass a parameter");
    public static readonly FindingCode LinkPassesUnexpected = Error("JX503", "A link passes what the page does not read");
    public static readonly FindingCode LinkParameterCase = Error("JX504", "A link passes a parameter under another spelling");
    public static readonly FindingCode LinkOtherType = Error("JX505", "A link passes a value of another type");
    public static readonly FindingCode LinkMayBeEmpty = Warning("JX506", "A link is filled from a field that may be empty");
    public static readonly FindingCode LinkColumnNotShown = Error("JX507", "A link stands on a column that is not shown");
    public static readonly FindingCode LinkAmbiguous = Error("JX508", "A link that could be filled in several ways");
    public static readonly FindingCode LinkColumnTaken = Error("JX509", "Two links on one column");

    public static readonly FindingCode OtherMeaning = Error("JX510", "The key of one kind of record where another's is needed");
    public static readonly FindingCode PlainMeaning = Warning(
        "JX511",
        "A plain value where a key is needed, or a key for a plain value"
    );

    public static readonly FindingCode DeadTextLink = Warning("JX512", "A link in a text that leads nowhere");

    // Seen while serving.
    public static readonly FindingCode AmbiguousRecord = Warning("JX601", "Two records answer to one ID");
    public static readonly FindingCode SourceAnswers = Warning("JX603", "A source that answers what cannot be used");
    public static readonly FindingCode PictureWithoutPlace = Warning("JX604", "A picture whose folder the app file does not say");
    public static readonly FindingCode KeyOfOtherClass = Warning("JX602", "A record whose key no address can carry");

    /// <summary>All codes, in order.</summary>
    public static IReadOnlyList<FindingCode> All { get; } =
    [
        .. typeof(FindingCodes)
            .GetFields()
            .Where(field => field.FieldType == typeof(FindingCode))
            .Select(field => (FindingCode)field.GetValue(null)!)
            .OrderBy(code => code.Id),
    ];

    private static FindingCode Error(string id, string title) => new(id, Severity.Error, title);

    private static FindingCode Hint(string id, string title) => new(id, Severity.Hint, title);

    private static FindingCode Warning(string id, string title) => new(id, Severity.Warning, title);
}
