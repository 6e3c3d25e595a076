using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace Jexa.Service.Management;

/// <summary>The code in the console's URL at start: good for one trade, then spent.</summary>
public sealed class StartCode
{
    private string? _code = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(16));

    /// <summary>The code, while nobody has spent it.</summary>
    public string? Value => _code;

    /// <summary>Whether this was the code; if so it is spent.</summary>
    public bool TrySpend(string code)
    {
        var held = _code;
        return held is not null && CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(code), Encoding.UTF8.GetBytes(held))
            && Interlocked.CompareExchange(ref _code, null, held) == held;
    }
}
