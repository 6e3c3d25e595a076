// The same in C#, by a client that a general generator made.
using Made;

using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false });
var register = new Register(http) { BaseUrl = args[0] + "/_jexa/json/" };
var list = await register.BridgesAsync(["arch"], null, null, null, null, null, null);
var one = await register.BridgeAsync(8);
var span = await register.SpanAsync(8, 1);
var none = "";
try
{
    await register.BridgeAsync(99999);
}
catch (ApiException<Problem> unknown)
{
    none = unknown.Result.Outcome;
}

Console.WriteLine(string.Join('|', list.Records.First().Id, one.Fields.Code, span.Id!.Number, none));
