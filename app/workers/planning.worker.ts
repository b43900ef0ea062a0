import { HELLO, scope } from "./scope";
import { serve } from "./planning-tasks";

serve(scope);
scope.postMessage(HELLO);
