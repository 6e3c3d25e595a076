namespace Jexa.Service.Hosting;

/// <summary>How much is logged. Each level includes the ones before.</summary>
public enum LogDetail
{
    None,

    /// <summary>Problems: visits that failed, an app file that makes no site.</summary>
    Trouble,

    /// <summary>One line for every visit as well.</summary>
    Visits,
}
