using System.Net;

namespace Jexa.Service.Tests;

/// <summary>Stands before a service and spoils some of its answers, as a wrong proxy or a wrong cache would.</summary>
internal sealed class FaultProxy : IDisposable
{
    private readonly HttpListener _listener;
    private readonly HttpClient _service;
    private readonly string _cut;
    private readonly Action<HttpListenerRequest, Spoilt> _fault;

    /// <param name="cut">A prefix that it takes away from paths.</param>
    public FaultProxy(string service, Action<HttpListenerRequest, Spoilt> fault, string cut = "")
    {
        _cut = cut;
        _service = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseProxy = false,
                UseCookies = false,
            }
        )
        {
            BaseAddress = new Uri(service),
        };
        _fault = fault;
        (_listener, Url) = LoopbackListener.Start(AnswerAsync);
    }

    public string Url { get; }

    private async Task AnswerAsync(HttpListenerContext context)
    {
        using var request = new HttpRequestMessage(
            new HttpMethod(context.Request.HttpMethod),
            context.Request.RawUrl![_cut.Length..]
        );
        foreach (var name in new[] { "Accept", "If-None-Match" })
            if (context.Request.Headers[name] is { } value)
                request.Headers.TryAddWithoutValidation(name, value);
        using var answer = await _service.SendAsync(request);
        var spoilt = new Spoilt((int)answer.StatusCode, await answer.Content.ReadAsStringAsync());
        foreach (var (name, values) in answer.Headers.Concat(answer.Content.Headers))
            if (name is "ETag" or "Location" or "Jexa-Visit" or "Allow" or "Content-Type")
                spoilt.Headers[name] = string.Join(", ", values);
        _fault(context.Request, spoilt);
        var response = context.Response;
        response.StatusCode = spoilt.Status;
        foreach (var (name, value) in spoilt.Headers)
            response.Headers[name] = value;
        if (context.Request.HttpMethod != "HEAD" && spoilt.Status != 304)
            response.OutputStream.Write(System.Text.Encoding.UTF8.GetBytes(spoilt.Body));
        response.Close();
    }

    public void Dispose()
    {
        _listener.Close();
        _service.Dispose();
    }

    /// <summary>An answer that can be changed.</summary>
    internal sealed class Spoilt(int status, string body)
    {
        public int Status { get; set; } = status;

        public string Body { get; set; } = body;

        public Dictionary<string, string> Headers { get; } = [];
    }
}
