namespace Jexa.Core.Drafts;

/// <summary>What all sampled values of a column are, beyond their type.</summary>
public enum ValueLook
{
    /// <summary>Nothing in particular.</summary>
    Plain,

    /// <summary>Addresses of the web.</summary>
    Web,

    /// <summary>Addresses of pictures on the web.</summary>
    WebPicture,

    /// <summary>Names of picture files.</summary>
    PictureName,

    /// <summary>Mail addresses.</summary>
    Mail,

    /// <summary>JSON objects or arrays.</summary>
    Json,

    /// <summary>Seconds since 1970, in a column named like a moment.</summary>
    Epoch,

    /// <summary>Sums of money: at most two decimals, in a column named like money.</summary>
    Money,
}
