namespace Jexa.Core.Definitions;

/// <summary>The kinds of findings that are met in data, in answers, and in applications of any make.</summary>
public static class ProofCodes
{
    // Found in the data.
    /// <summary>JX801: a link to a record that is not there.</summary>
    public static readonly FindingCode LinkToNothing = FindingCode.Warning("JX801", "A link to a record that is not there");

    /// <summary>JX802: a link to a record that may not be seen.</summary>
    public static readonly FindingCode LinkToHidden = FindingCode.Warning("JX802", "A link to a record that may not be seen");

    /// <summary>JX803: an address that leads to another page.</summary>
    public static readonly FindingCode LinkAstray = FindingCode.Warning("JX803", "An address that leads to another page");

    /// <summary>JX804: a stored value of another type than its field.</summary>
    public static readonly FindingCode StoredAsOtherType = FindingCode.Warning(
        "JX804",
        "A stored value of another type than its field"
    );

    /// <summary>JX805: a record without a label.</summary>
    public static readonly FindingCode LabelEmpty = FindingCode.Warning("JX805", "A record without a label");

    /// <summary>JX806: a file that is not there.</summary>
    public static readonly FindingCode FileNotThere = FindingCode.Warning("JX806", "A file that is not there");

    /// <summary>JX807: a value that its field does not allow.</summary>
    public static readonly FindingCode ValueNotAllowed = FindingCode.Warning("JX807", "A value that its field does not allow");

    /// <summary>JX808: a link in a text to an address that shows nothing.</summary>
    public static readonly FindingCode TextLinkToNothing = FindingCode.Warning(
        "JX808",
        "A link in a text to an address that shows nothing"
    );

    /// <summary>JX809: the service shows something other than the row.</summary>
    public static readonly FindingCode ShownOtherwise = FindingCode.Warning(
        "JX809",
        "A page that shows other values than its row"
    );

    /// <summary>JX810: a list or a kind of record of which there is nothing to see.</summary>
    public static readonly FindingCode NothingThere = FindingCode.Hint("JX810", "A list without a record");

    /// <summary>JX811: a block whose records belong to none of the page's.</summary>
    public static readonly FindingCode NeverTied = FindingCode.Warning("JX811", "A block that no record has anything in");

    // Found in answers.
    /// <summary>JX851: an answer that is not what the app file asks for.</summary>
    public static readonly FindingCode OtherAnswer = FindingCode.Warning(
        "JX851",
        "An answer that is not what the app file asks for"
    );

    /// <summary>JX852: a hidden record that can be told from an unknown one.</summary>
    public static readonly FindingCode HiddenIsTold = FindingCode.Warning(
        "JX852",
        "A hidden record that can be told from an unknown one"
    );

    /// <summary>JX853: HEAD or a conditional request that differs from GET.</summary>
    public static readonly FindingCode HeadDiffers = FindingCode.Warning(
        "JX853",
        "HEAD or a conditional request that differs from GET"
    );

    /// <summary>JX854: HTML and JSON that say different things.</summary>
    public static readonly FindingCode FormsDiffer = FindingCode.Warning("JX854", "HTML and JSON that say different things");

    /// <summary>JX855: a method that is not refused.</summary>
    public static readonly FindingCode MethodNotRefused = FindingCode.Warning("JX855", "A method that is not refused");

    /// <summary>JX856: an answer that shows what is inside.</summary>
    public static readonly FindingCode InsideShown = FindingCode.Warning("JX856", "An answer that shows what is inside");

    /// <summary>JX857: pages below another prefix than the service knows of.</summary>
    public static readonly FindingCode OtherPrefix = FindingCode.Warning(
        "JX857",
        "Pages below another prefix than the service knows of"
    );

    // Found by an audit of any web application.
    /// <summary>JX901: a link that leads to another record.</summary>
    public static readonly FindingCode AuditWrongRecord = FindingCode.Warning("JX901", "A link that leads to another record");

    /// <summary>JX902: a page that shows one record whatever the ID.</summary>
    public static readonly FindingCode AuditSameRecord = FindingCode.Warning(
        "JX902",
        "A page that shows one record whatever the ID"
    );

    /// <summary>JX903: a link whose page fails.</summary>
    public static readonly FindingCode AuditDeadLink = FindingCode.Warning("JX903", "A link whose page fails");

    /// <summary>JX904: a page that says nothing of its row.</summary>
    public static readonly FindingCode AuditSaysNothing = FindingCode.Warning("JX904", "A page that says nothing of its row");

    /// <summary>JX905: a link whose ID was never filled in.</summary>
    public static readonly FindingCode AuditBrokenLink = FindingCode.Warning("JX905", "A link whose ID was never filled in");

    /// <summary>JX906: an ID without a record that gets a page.</summary>
    public static readonly FindingCode AuditSoftMissing = FindingCode.Warning("JX906", "An ID without a record that gets a page");

    /// <summary>JX907: a wrong ID that shows a record.</summary>
    public static readonly FindingCode AuditBadIdShowsRecord = FindingCode.Warning("JX907", "A wrong ID that shows a record");

    /// <summary>JX908: a wrong ID that is a fault of the server.</summary>
    public static readonly FindingCode AuditServerFault = FindingCode.Warning(
        "JX908",
        "A wrong ID that is a fault of the server"
    );

    /// <summary>JX909: a page that shows what is inside.</summary>
    public static readonly FindingCode AuditInsideShown = FindingCode.Warning("JX909", "A page that shows what is inside");

    /// <summary>JX910: an ID that comes back unescaped.</summary>
    public static readonly FindingCode AuditUnescaped = FindingCode.Warning("JX910", "An ID that comes back unescaped");

    /// <summary>JX911: a record at two addresses.</summary>
    public static readonly FindingCode AuditTwoAddresses = FindingCode.Hint("JX911", "A record at two addresses");

    /// <summary>JX912: a position used as an ID.</summary>
    public static readonly FindingCode AuditPositionAsId = FindingCode.Warning("JX912", "A position used as an ID");

    /// <summary>JX913: records whose titles are alike.</summary>
    public static readonly FindingCode AuditTitles = FindingCode.Hint("JX913", "Records whose titles are alike");

    /// <summary>JX914: a next page that is dead or the same.</summary>
    public static readonly FindingCode AuditPaging = FindingCode.Warning("JX914", "A next page that is dead or the same");

    /// <summary>JX915: a page that only opens after its list.</summary>
    public static readonly FindingCode AuditNeedsList = FindingCode.Warning("JX915", "A page that only opens after its list");

    /// <summary>JX916: a record that stays when the ID changes.</summary>
    public static readonly FindingCode AuditStale = FindingCode.Warning("JX916", "A record that stays when the ID changes");

    /// <summary>JX917: a late answer that takes the place of the record.</summary>
    public static readonly FindingCode AuditLateAnswer = FindingCode.Warning(
        "JX917",
        "A late answer that takes the place of the record"
    );

    /// <summary>JX918: back or forward that shows something else.</summary>
    public static readonly FindingCode AuditBack = FindingCode.Warning("JX918", "Back or forward that shows something else");

    /// <summary>JX919: data that is loaded twice.</summary>
    public static readonly FindingCode AuditLoadsTwice = FindingCode.Hint("JX919", "Data that is loaded twice");

    /// <summary>JX920: an error in the browser's console.</summary>
    public static readonly FindingCode AuditScriptError = FindingCode.Warning("JX920", "An error in the browser's console");

    /// <summary>JX921: a blank page while data is loaded.</summary>
    public static readonly FindingCode AuditBlank = FindingCode.Hint("JX921", "A blank page while data is loaded");

    /// <summary>JX922: a record without an address.</summary>
    public static readonly FindingCode AuditNoAddress = FindingCode.Warning("JX922", "A record without an address");

    /// <summary>JX923: a picture that is not there.</summary>
    public static readonly FindingCode AuditPicture = FindingCode.Warning("JX923", "A picture that is not there");

    /// <summary>JX924: an edit page that is not filled with its record.</summary>
    public static readonly FindingCode AuditEditForm = FindingCode.Warning(
        "JX924",
        "An edit page that is not filled with its record"
    );

    /// <summary>JX925: a field that shows another record's value.</summary>
    public static readonly FindingCode AuditOneField = FindingCode.Warning("JX925", "A field that shows another record's value");

    /// <summary>JX926: text that a program left by mistake.</summary>
    public static readonly FindingCode AuditSpoiltText = FindingCode.Warning("JX926", "Text that a program left by mistake");

    /// <summary>JX927: a way back that leads to the first page of the list.</summary>
    public static readonly FindingCode AuditWayBack = FindingCode.Hint(
        "JX927",
        "A way back that leads to the first page of the list"
    );

    /// <summary>JX928: a row that stands in the list twice.</summary>
    public static readonly FindingCode AuditRowTwice = FindingCode.Warning("JX928", "A row that stands in the list twice");

    /// <summary>JX929: a page that takes much longer than others.</summary>
    public static readonly FindingCode AuditSlow = FindingCode.Hint("JX929", "A page that takes much longer than others");

    /// <summary>JX930: a record that depends on what was open before.</summary>
    public static readonly FindingCode AuditEarlierVisit = FindingCode.Warning(
        "JX930",
        "A record that depends on what was open before"
    );

    /// <summary>Whether a sweep looks for findings of a code.</summary>
    public static bool IsMetBySweep(string code) =>
        (code.StartsWith("JX8", StringComparison.Ordinal) && code[3] is '0' or '1') || code is "JX601" or "JX602" or "JX604";

    /// <summary>Whether a probe looks for findings of a code.</summary>
    public static bool IsMetByProbe(string code) => code.StartsWith("JX85", StringComparison.Ordinal);
}
