namespace Jexa.Core.Drafts;

/// <summary>What all sampled values of a column look like, beyond their type.</summary>
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

    /// <summary>Seconds since 1970, in a column with the name of a moment.</summary>
    Epoch,

    /// <summary>Amounts of money: at most two decimals, in a column with a name of money.</summary>
    Money,
}
