using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace Jexa.Service.Management;

/// <summary>The codes in URLs of the console. Each can be exchanged once, within ten minutes.</summary>
public sealed class StartCodes(TimeProvider clock)
{
    private static readonly TimeSpan GoodFor = TimeSpan.FromMinutes(10);

    /// <summary>If there are more codes, the oldest is dropped.</summary>
    private const int MostCodes = 16;

    private readonly Lock _lock = new();
    private readonly List<(byte[] Code, long At)> _codes = [];

    /// <summary>Makes a code.</summary>
    public string Issue()
    {
        var code = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(16));
        lock (_lock)
        {
            if (_codes.Count == MostCodes)
                _codes.RemoveAt(0);
            _codes.Add((Encoding.UTF8.GetBytes(code), clock.GetTimestamp()));
        }

        return code;
    }

    /// <summary>Ends the validity of all codes.</summary>
    public void EndAll()
    {
        lock (_lock)
            _codes.Clear();
    }

    /// <summary>Whether this is a valid code. It is used up by that.</summary>
    public bool TrySpend(string code)
    {
        var bytes = Encoding.UTF8.GetBytes(code);
        lock (_lock)
        {
            _codes.RemoveAll(held => clock.GetElapsedTime(held.At) > GoodFor);
            return _codes.RemoveAll(held => CryptographicOperations.FixedTimeEquals(held.Code, bytes)) > 0;
        }
    }
}
