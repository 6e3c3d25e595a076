namespace Jexa.Service.Hosting;

/// <summary>How much is logged, each a part of the next.</summary>
public enum LogDetail
{
    None,

    /// <summary>What somebody should look at: visits that failed, an app file that makes no site.</summary>
    Trouble,

    /// <summary>One line for every visit as well.</summary>
    Visits,
}
