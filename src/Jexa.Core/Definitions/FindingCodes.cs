namespace Jexa.Core.Definitions;

/// <summary>All kinds of findings. A published code never changes its meaning.</summary>
public static class FindingCodes
{
    // The file.
    /// <summary>JX101: the app file is too large.</summary>
    public static readonly FindingCode FileTooLarge = Error("JX101", "The app file is too large");

    /// <summary>JX102: the app file is not UTF-8 text.</summary>
    public static readonly FindingCode FileNotText = Error("JX102", "The app file is not UTF-8 text");

    /// <summary>JX103: the app file is empty.</summary>
    public static readonly FindingCode FileEmpty = Error("JX103", "The app file is empty");

    /// <summary>JX104: the text is not YAML.</summary>
    public static readonly FindingCode NotYaml = Error("JX104", "The text is not YAML");

    /// <summary>JX105: the text is nested too deep.</summary>
    public static readonly FindingCode TooDeep = Error("JX105", "The text is nested too deep");

    /// <summary>JX106: an alias, anchor or tag.</summary>
    public static readonly FindingCode AliasOrTag = Error("JX106", "An alias, anchor or tag");

    /// <summary>JX107: more than one document.</summary>
    public static readonly FindingCode SeveralDocuments = Error("JX107", "More than one document");

    /// <summary>JX108: a single text is too long.</summary>
    public static readonly FindingCode TextTooLong = Error("JX108", "A single text is too long");

    /// <summary>JX109: the app file cannot be read.</summary>
    public static readonly FindingCode FileUnreadable = Error("JX109", "The app file cannot be read");

    // Keys and shapes.
    /// <summary>JX111: unknown key.</summary>
    public static readonly FindingCode UnknownKey = Error("JX111", "Unknown key");

    /// <summary>JX112: the same key twice.</summary>
    public static readonly FindingCode DuplicateKey = Error("JX112", "The same key twice");

    /// <summary>JX113: a required key is missing.</summary>
    public static readonly FindingCode MissingKey = Error("JX113", "A required key is missing");

    /// <summary>JX114: text, list or mapping where another was expected.</summary>
    public static readonly FindingCode WrongShape = Error("JX114", "Text, list or mapping where another was expected");

    /// <summary>JX115: braces need quotes.</summary>
    public static readonly FindingCode QuoteIt = Error("JX115", "Braces need quotes");

    /// <summary>JX116: not one of the words that can stand here.</summary>
    public static readonly FindingCode UnknownWord = Error("JX116", "Not one of the words that can stand here");

    /// <summary>JX117: not a name.</summary>
    public static readonly FindingCode BadName = Error("JX117", "Not a name");

    /// <summary>JX118: a setting for findings that there are not.</summary>
    public static readonly FindingCode SettingForNothing = Warning("JX118", "A setting for findings that there are not");

    // Sources.
    /// <summary>JX201: unknown engine.</summary>
    public static readonly FindingCode UnknownEngine = Error("JX201", "Unknown engine");

    /// <summary>JX202: an environment variable is not set.</summary>
    public static readonly FindingCode VariableNotSet = Error("JX202", "An environment variable is not set");

    /// <summary>JX203: the source cannot be reached.</summary>
    public static readonly FindingCode SourceAway = Error("JX203", "The source cannot be reached");

    /// <summary>JX204: unknown source.</summary>
    public static readonly FindingCode UnknownSource = Error("JX204", "Unknown source");

    /// <summary>JX205: unknown table.</summary>
    public static readonly FindingCode UnknownTable = Error("JX205", "Unknown table");

    /// <summary>JX206: a part of a source that cannot be used.</summary>
    public static readonly FindingCode SourceFault = Warning("JX206", "A part of a source that cannot be used");

    /// <summary>JX207: values of a source that are not what the others are.</summary>
    public static readonly FindingCode SourceDoubt = Warning("JX207", "Values of a source that are not what the others are");

    /// <summary>JX208: a list of what can only be read one by one.</summary>
    public static readonly FindingCode CannotList = Error("JX208", "A list of what can only be read one by one");

    /// <summary>JX209: an endpoint that cannot be called.</summary>
    public static readonly FindingCode BadEndpoint = Error("JX209", "An endpoint that cannot be called");

    /// <summary>JX210: a source that is away is taken to be as it was.</summary>
    public static readonly FindingCode SourceRemembered = Warning("JX210", "A source that is away is taken to be as it was");

    /// <summary>JX211: a table that may not be read.</summary>
    public static readonly FindingCode TableUnreadable = Error("JX211", "A table that may not be read");

    /// <summary>JX212: a table that is not there yet.</summary>
    public static readonly FindingCode TableNotYet = Warning("JX212", "A table that is not there yet");

    // Records.
    /// <summary>JX301: unknown field.</summary>
    public static readonly FindingCode UnknownField = Error("JX301", "Unknown field");

    /// <summary>JX302: the record has no key.</summary>
    public static readonly FindingCode NoKey = Error("JX302", "The record has no key");

    /// <summary>JX303: nothing keeps the key unique.</summary>
    public static readonly FindingCode KeyNotUnique = Warning("JX303", "Nothing keeps the key unique");

    /// <summary>JX304: a key of a type that is not served.</summary>
    public static readonly FindingCode KeyTypeNotServed = Error("JX304", "A key of a type that is not served");

    /// <summary>JX305: unknown record.</summary>
    public static readonly FindingCode UnknownRecord = Error("JX305", "Unknown record");

    /// <summary>JX306: a text with holes that cannot be read.</summary>
    public static readonly FindingCode BadText = Error("JX306", "A text with holes that cannot be read");

    /// <summary>JX307: a value of another type than its field.</summary>
    public static readonly FindingCode ValueOfOtherType = Error("JX307", "A value of another type than its field");

    /// <summary>JX308: a secret field where it would be shown.</summary>
    public static readonly FindingCode SecretShown = Error("JX308", "A secret field where it would be shown");

    /// <summary>JX309: no foreign key that leads there.</summary>
    public static readonly FindingCode NoSuchStep = Error("JX309", "No foreign key that leads there");

    /// <summary>JX310: a query that cannot be used.</summary>
    public static readonly FindingCode BadQuery = Error("JX310", "A query that cannot be used");

    /// <summary>JX311: a comparison that does not suit its field.</summary>
    public static readonly FindingCode FilterOfOtherType = Error("JX311", "A comparison that does not suit its field");

    /// <summary>JX312: a folder of files is not there.</summary>
    public static readonly FindingCode FilesAway = Warning("JX312", "A folder of files is not there");

    /// <summary>JX313: a label that is only a number.</summary>
    public static readonly FindingCode LabelIsNumber = Hint("JX313", "A label that is only a number");

    /// <summary>JX314: a label that is often empty.</summary>
    public static readonly FindingCode LabelOftenEmpty = Hint("JX314", "A label that is often empty");

    // Pages.
    /// <summary>JX401: a path that cannot be matched.</summary>
    public static readonly FindingCode BadPath = Error("JX401", "A path that cannot be matched");

    /// <summary>JX402: two pages for the same addresses.</summary>
    public static readonly FindingCode SameAddresses = Error("JX402", "Two pages for the same addresses");

    /// <summary>JX403: a page hides addresses of records.</summary>
    public static readonly FindingCode HiddenAddresses = Warning("JX403", "A page hides addresses of records");

    /// <summary>JX404: a detail page without an ID.</summary>
    public static readonly FindingCode DetailWithoutId = Error("JX404", "A detail page without an ID");

    /// <summary>JX406: a parameter that stands for no field.</summary>
    public static readonly FindingCode UnboundParameter = Error("JX406", "A parameter that stands for no field");

    /// <summary>JX407: unknown parameter.</summary>
    public static readonly FindingCode UnknownParameter = Error("JX407", "Unknown parameter");

    /// <summary>JX408: unknown page.</summary>
    public static readonly FindingCode UnknownPage = Error("JX408", "Unknown page");

    /// <summary>JX409: a key that this kind of page does not have.</summary>
    public static readonly FindingCode KeyOfOtherPageKind = Error("JX409", "A key that this kind of page does not have");

    /// <summary>JX410: the ID does not tell records apart.</summary>
    public static readonly FindingCode IdNotUnique = Warning("JX410", "The ID does not tell records apart");

    /// <summary>JX411: a page that cannot be opened by itself.</summary>
    public static readonly FindingCode PageNeedsParameters = Error("JX411", "A page that cannot be opened by itself");

    /// <summary>JX412: a former path with other parameters.</summary>
    public static readonly FindingCode FormerParameters = Error("JX412", "A former path with other parameters");

    /// <summary>JX413: no list that takes this.</summary>
    public static readonly FindingCode NoSuchList = Error("JX413", "No list that takes this");

    /// <summary>JX414: records that no foreign key ties together.</summary>
    public static readonly FindingCode NotRelated = Error("JX414", "Records that no foreign key ties together");

    /// <summary>JX415: unknown time zone or locale.</summary>
    public static readonly FindingCode UnknownZone = Error("JX415", "Unknown time zone or locale");

    /// <summary>JX416: a file of the app that is not there.</summary>
    public static readonly FindingCode FileAway = Error("JX416", "A file of the app that is not there");

    /// <summary>JX417: an order that no index can serve.</summary>
    public static readonly FindingCode SlowOrder = Warning("JX417", "An order that no index can serve");

    /// <summary>JX418: a field that no form can fill.</summary>
    public static readonly FindingCode NotWritable = Error("JX418", "A field that no form can fill");

    /// <summary>JX419: a required field that a new record's form does not ask for.</summary>
    public static readonly FindingCode RequiredNotAsked = Error(
        "JX419",
        "A required field that a new record's form does not ask for"
    );

    /// <summary>JX420: changes whose end nobody may be able to tell.</summary>
    public static readonly FindingCode WritesUnnoted = Warning("JX420", "Changes whose end may stay unknown");

    /// <summary>JX421: a page that changes what cannot be changed.</summary>
    public static readonly FindingCode CannotWrite = Error("JX421", "A page that changes what cannot be changed");

    /// <summary>JX422: records that no index leads to.</summary>
    public static readonly FindingCode SlowId = Warning("JX422", "Records that no index leads to");

    /// <summary>JX423: a page that nothing leads to.</summary>
    public static readonly FindingCode NothingLeadsThere = Hint("JX423", "A page that nothing leads to");

    /// <summary>JX424: a record's page without a way back.</summary>
    public static readonly FindingCode NoWayBack = Hint("JX424", "A record's page without a way back");

    /// <summary>JX425: a page that can show no record.</summary>
    public static readonly FindingCode ShowsNothing = Warning("JX425", "A page that can show no record");

    /// <summary>JX426: a filter that no index can serve.</summary>
    public static readonly FindingCode SlowFilter = Hint("JX426", "A filter that no index can serve");

    /// <summary>JX427: a page that is drawn by the app itself.</summary>
    public static readonly FindingCode DrawnByItself = Warning("JX427", "A page whose other program is the app itself");

    // Links.
    /// <summary>JX501: a link to a page that is not written yet.</summary>
    public static readonly FindingCode LinkToUnwrittenPage = Warning("JX501", "A link to a page that is not written yet");

    /// <summary>JX502: a link does not pass a parameter.</summary>
    public static readonly FindingCode LinkLacksParameter = Error("JX502", "A link does not pass a parameter");

    /// <summary>JX503: a link passes what the page does not read.</summary>
    public static readonly FindingCode LinkPassesUnexpected = Error("JX503", "A link passes what the page does not read");

    /// <summary>JX504: a link passes a parameter under another spelling.</summary>
    public static readonly FindingCode LinkParameterCase = Error("JX504", "A link passes a parameter under another spelling");

    /// <summary>JX505: a link passes a value of another type.</summary>
    public static readonly FindingCode LinkOtherType = Error("JX505", "A link passes a value of another type");

    /// <summary>JX506: a link is filled from a field that may be empty.</summary>
    public static readonly FindingCode LinkMayBeEmpty = Warning("JX506", "A link is filled from a field that may be empty");

    /// <summary>JX507: a link stands on a column that is not shown.</summary>
    public static readonly FindingCode LinkColumnNotShown = Error("JX507", "A link stands on a column that is not shown");

    /// <summary>JX508: a link that could be filled in several ways.</summary>
    public static readonly FindingCode LinkAmbiguous = Error("JX508", "A link that could be filled in several ways");

    /// <summary>JX509: two links on one column.</summary>
    public static readonly FindingCode LinkColumnTaken = Error("JX509", "Two links on one column");

    /// <summary>JX510: the key of one kind of record where another's is needed.</summary>
    public static readonly FindingCode OtherMeaning = Error("JX510", "The key of one kind of record where another's is needed");

    /// <summary>JX511: a plain value where a key is needed, or a key for a plain value.</summary>
    public static readonly FindingCode PlainMeaning = Warning(
        "JX511",
        "A plain value where a key is needed, or a key for a plain value"
    );

    /// <summary>JX512: a link in a text that leads nowhere.</summary>
    public static readonly FindingCode DeadTextLink = Warning("JX512", "A link in a text that leads nowhere");

    // A page's own design.
    /// <summary>JX701: a body that cannot be read.</summary>
    public static readonly FindingCode BodyUnreadable = Error("JX701", "A body that cannot be read");

    /// <summary>JX702: a name in a body that stands for nothing.</summary>
    public static readonly FindingCode BodyUnknownName = Error("JX702", "A name in a body that stands for nothing");

    /// <summary>JX703: a value in a place of a body that cannot hold it.</summary>
    public static readonly FindingCode BodyMisplaced = Error("JX703", "A value in a place of a body that cannot hold it");

    /// <summary>JX704: a field in a body that its page does not show.</summary>
    public static readonly FindingCode BodyNotShown = Error("JX704", "A field in a body that its page does not show");

    /// <summary>JX705: an element that no page may have.</summary>
    public static readonly FindingCode BodyRefused = Error("JX705", "An element or address that no page may have");

    /// <summary>JX706: a form that cannot be filled in.</summary>
    public static readonly FindingCode BodyFormIncomplete = Error("JX706", "A form in a body that cannot be filled in");

    /// <summary>JX707: a part of a body that is left out or stays as it was designed.</summary>
    public static readonly FindingCode BodyUnbound = Warning("JX707", "A part of a body that is left out, or bound to nothing");

    // Seen while serving.
    /// <summary>JX601: two records answer to one ID.</summary>
    public static readonly FindingCode AmbiguousRecord = Warning("JX601", "Two records answer to one ID");

    /// <summary>JX603: a source that answers what cannot be used.</summary>
    public static readonly FindingCode SourceAnswers = Warning("JX603", "A source that answers what cannot be used");

    /// <summary>JX604: a picture whose folder the app file does not say.</summary>
    public static readonly FindingCode PictureWithoutPlace = Warning("JX604", "A picture whose folder the app file does not say");

    /// <summary>JX602: a record whose key no address can carry.</summary>
    public static readonly FindingCode KeyOfOtherClass = Warning("JX602", "A record whose key no address can carry");

    /// <summary>All codes, in order.</summary>
    public static IReadOnlyList<FindingCode> All { get; } =
    [
        .. typeof(FindingCodes)
            .GetFields()
            .Concat(typeof(ProofCodes).GetFields())
            .Where(field => field.FieldType == typeof(FindingCode))
            .Select(field => (FindingCode)field.GetValue(null)!)
            .OrderBy(code => code.Id),
    ];

    /// <summary>Whether findings of a code are met only in the data or in answers, not by the check.</summary>
    public static bool IsMetLater(string code) => code[2] is '6' or '8' or '9';

    private static FindingCode Error(string id, string title) => FindingCode.Error(id, title);

    private static FindingCode Hint(string id, string title) => FindingCode.Hint(id, title);

    private static FindingCode Warning(string id, string title) => FindingCode.Warning(id, title);
}
