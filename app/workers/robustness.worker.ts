import { HELLO, scope } from "./scope";
import { serve } from "./robustness-tasks";

serve(scope);
scope.postMessage(HELLO);
